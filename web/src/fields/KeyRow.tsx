import { goOn } from "../ui/nextField.ts";

/** What a key of the row does to the text. */
export function withKey(text: string, key: string): string {
  if (key === "−") return /^\s*[-−]/.test(text) ? text.replace(/^\s*[-−]\s*/, "") : `-${text.trimStart()}`;
  const bare = text.replace(/\s*(lb|oz|kg|g)\s*$/, "");
  const both = key === "oz" && /lb\s*[\d.]+$/.test(bare);
  return both || key !== "oz" ? `${bare.trim()} ${key} ` : `${bare.replace(/[a-z]/gi, "").trim()} ${key}`;
}

const SIGNED = ["temperature", "gauge_pressure", "temperature_delta"];

/** Keys that a phone's number pad lacks: units of a weight, the minus, and on to the next field. */
export function KeyRow({
  input,
  quantity,
  change,
}: {
  input: HTMLInputElement | null;
  quantity: string;
  change: (text: string) => void;
}) {
  const keys = quantity === "mass" ? ["lb", "oz", "kg", "g"] : SIGNED.includes(quantity) ? ["−"] : [];
  const press = (key: string) => {
    if (!input) return;
    change(withKey(input.value, key));
    input.focus();
  };
  return (
    <div className="mt-1 flex gap-1 md:hidden">
      {keys.map((key) => (
        <Key key={key} label={key === "−" ? "minus" : key} onPress={() => press(key)}>
          {key}
        </Key>
      ))}
      <Key label="next field" onPress={() => input && goOn(input)}>
        next
      </Key>
    </div>
  );
}

/** A key leaves the cursor where it is. */
function Key({ label, onPress, children }: { label: string; onPress: () => void; children: string }) {
  return (
    <button
      type="button"
      tabIndex={-1}
      aria-label={label}
      className="min-h-[44px] min-w-[44px] flex-1 rounded-[3px] border border-[var(--edge)] bg-paper text-[16px] font-semibold"
      onMouseDown={(event) => event.preventDefault()}
      onClick={onPress}
    >
      {children}
    </button>
  );
}
