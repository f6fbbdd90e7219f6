/**
 * A button, or what bears a choice, keeps the press that began on it, though the page moves under the pointer before it is let go:
 * leaving a field changes the lines below it, and the tap that left it must not be lost.
 */
export function keepPresses(root: Document): void {
  root.addEventListener("pointerdown", (event) => {
    const button = (event.target as Element | null)?.closest?.("button, label, summary");
    if (button && event.isPrimary && event.button === 0) button.setPointerCapture(event.pointerId);
  });
}
