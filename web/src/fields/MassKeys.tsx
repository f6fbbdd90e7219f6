/** Unit keys under a weight on a phone, and what a key does to the text. */
export function appendKey(input: HTMLInputElement | null, key: string, change: (text: string) => void): void {
  if (!input) return;
  const text = input.value.replace(/\s*(lb|oz|kg|g)\s*$/, "");
  const both = key === "oz" && /lb\s*[\d.]+$/.test(text);
  change(both || key !== "oz" ? `${text.trim()} ${key} ` : `${text.replace(/[a-z]/gi, "").trim()} ${key}`);
  input.focus();
}

/** Unit keys for a thumb: a phone's number pad has no letters. */
export function MassKeys({ onKey }: { onKey: (key: string) => void }) {
  return (
    <div className="mt-1 flex gap-1 md:hidden">
      {["lb", "oz", "kg", "g"].map((key) => (
        <button
          key={key}
          type="button"
          tabIndex={-1}
          className="min-h-[44px] flex-1 rounded-[3px] border border-[var(--edge)] bg-paper text-[16px] font-semibold"
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => onKey(key)}
        >
          {key}
        </button>
      ))}
    </div>
  );
}
