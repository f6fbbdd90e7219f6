import { ToggleGroup } from "radix-ui";

/** One of a few, side by side; the chosen one is inked. */
export function Toggle({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: Record<string, string>;
  onChange: (value: string) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => next && onChange(next)}
      className="inline-flex overflow-hidden rounded-[4px] border-[1.3px] border-ink"
    >
      {Object.entries(options).map(([key, text]) => (
        <ToggleGroup.Item
          key={key}
          value={key}
          className="min-h-[44px] min-w-[52px] px-3 text-[15px] font-semibold text-ink data-[state=on]:bg-ink data-[state=on]:text-sheet"
        >
          {text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
