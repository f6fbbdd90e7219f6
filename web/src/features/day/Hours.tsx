import type { DayState } from "../../api/types.ts";
import { clock } from "../../format/quantity.ts";

const AHEAD_MS = 60_000;

/** Where the shop is closed now: from when the plan is, and a word that work goes on all the same. */
export function Hours({
  day,
  outside,
  onOutside,
}: {
  day: DayState;
  outside: boolean;
  onOutside: (outside: boolean) => void;
}) {
  const begins = new Date(day.begins);
  const closed = begins.getTime() > new Date(day.now).getTime() + AHEAD_MS;
  if (!closed && !outside) return null;
  return (
    <p className="mt-3 flex flex-wrap items-center gap-x-4" data-testid="hours">
      <span>
        {closed
          ? `The shop is closed now: planned from ${begins.toLocaleDateString("en-US", { weekday: "long" })}, ${clock(day.begins)}.`
          : "Planned from now on, whatever the shop's hours."}
      </span>
      <button type="button" className="btn quiet" onClick={() => onOutside(!outside)}>
        {closed ? "I work now: plan from now on" : "Keep to the shop's hours"}
      </button>
    </p>
  );
}
