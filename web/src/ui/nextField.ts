/** On from one field to the next that waits for something: typed ones, choices nobody made yet, and the button that ends the step. */
export function goOn(from: HTMLElement): void {
  nextField(from)?.focus();
}

function nextField(from: HTMLElement): HTMLElement | undefined {
  const scope = from.closest("main") ?? document.body;
  const all = [...scope.querySelectorAll<HTMLElement>(".control, input[type=radio], .btn.go")];
  const follows = (item: HTMLElement) => from.compareDocumentPosition(item) & Node.DOCUMENT_POSITION_FOLLOWING;
  return all.find((item) => follows(item) && waits(item) && item.offsetParent !== null);
}

/** One stop for a choice, and none for one that was made. */
function waits(item: HTMLElement): boolean {
  if (item.hasAttribute("disabled")) return false;
  if (!(item instanceof HTMLInputElement) || item.type !== "radio") return true;
  const group = [
    ...(item.closest("fieldset") ?? document).querySelectorAll<HTMLInputElement>("input[type=radio]"),
  ].filter((other) => other.name === item.name);
  return group[0] === item && !group.some((other) => other.checked);
}
