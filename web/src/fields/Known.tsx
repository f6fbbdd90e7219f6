import type { Entry } from "../api/types.ts";
import { useJob } from "../job/context.ts";

const WORDS: Record<string, string> = {
  weighed: "weighed",
  measured: "measured",
  plate: "stamped",
  note: "on record",
  makers: "maker's data",
  told: "told",
  assumed: "assumed",
  typed: "not said",
};
const SAID = ["weighed", "measured", "plate", "note", "makers", "told", "assumed"];

/** How a figure is known, under it; one tap to change. Told and assumed plan, and prove nothing. */
export function Known(props: {
  path: string;
  label: string;
  entry: Entry | null;

  closed: boolean;
}) {
  const { type } = useJob();
  const { path, label, entry, closed } = props;
  if (!entry) return null; // what is copied from the record says so itself
  const known = entry.source ?? "typed";
  if (closed) return <p className="pt-1 text-[13px] text-soft">{WORDS[known]}</p>;
  const unit = entry.unit === "lb oz" ? "lb" : entry.unit;
  return (
    <select
      aria-label={`${label}: how it is known`}
      className={`-mb-[22px] block min-h-[44px] w-full cursor-pointer appearance-none bg-transparent pb-[18px] text-[13px] underline decoration-dotted underline-offset-4 ${known === "typed" ? "font-semibold text-copper" : "text-soft"}`}
      value={known}
      onChange={(event) =>
        type(
          path,
          { text: entry.text, unit, source: event.target.value, ...(entry.limit != null && { limit: entry.limit }) },
          { ready: true },
        )
      }
    >
      {known === "typed" && <option value="typed">say how</option>}
      {SAID.map((word) => (
        <option key={word} value={word}>
          {WORDS[word]}
        </option>
      ))}
    </select>
  );
}
