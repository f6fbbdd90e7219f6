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
/** What it usually is, by what is measured: one press away. */
const USUAL: Record<string, string[]> = {
  mass: ["weighed", "plate", "told"],
  length: ["measured", "told", "assumed"],
  volume: ["measured", "makers", "assumed"],
};
const OTHERWISE = ["measured", "makers", "told"];

type Props = { path: string; label: string; entry: Entry | null; closed: boolean; quantity: string };

/** How a figure is known, under it; one tap to say, one to change. Told and assumed plan, and prove nothing. */
export function Known({ path, label, entry, closed, quantity }: Props) {
  const { type } = useJob();
  if (!entry) return null; // what is copied from the record says so itself
  const known = entry.source ?? "typed";
  if (closed) return <p className="pt-1 text-[14px] text-soft">{WORDS[known]}</p>;
  const unit = entry.unit === "lb oz" ? "lb" : entry.unit;
  const say = (source: string) =>
    type(path, { text: entry.text, unit, source, ...(entry.limit != null && { limit: entry.limit }) }, { ready: true });
  const list = (
    <select
      aria-label={`${label}: how it is known`}
      className={`-mb-[22px] block min-h-[44px] w-full cursor-pointer appearance-none bg-transparent pb-[18px] text-[14px] underline decoration-dotted underline-offset-4 ${known === "typed" ? "font-semibold text-copper" : "text-soft"}`}
      value={known}
      onChange={(event) => say(event.target.value)}
    >
      {known === "typed" && <option value="typed">say how</option>}
      {SAID.map((word) => (
        <option key={word} value={word}>
          {WORDS[word]}
        </option>
      ))}
    </select>
  );
  if (known !== "typed") return list;
  return (
    <fieldset className="flex flex-wrap items-start gap-x-4">
      <legend className="sr-only">{label}: how it is known</legend>
      {(USUAL[quantity] ?? OTHERWISE).map((word) => (
        <button
          key={word}
          type="button"
          className="min-h-[44px] min-w-[44px] text-left text-[14px] font-semibold text-copper underline decoration-dotted underline-offset-4"
          onClick={() => say(word)}
        >
          {WORDS[word]}
        </button>
      ))}
      <span className="min-w-[70px] flex-1">{list}</span>
    </fieldset>
  );
}
