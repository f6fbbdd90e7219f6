import type { DayState } from "../../api/types.ts";
import { clock, lasting } from "../../format/quantity.ts";
import { Shape } from "../../parts/shapes.tsx";
import { HATCH } from "./Bars.tsx";

export function Legend() {
  return (
    <ul
      className="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-[14px] text-soft max-md:hidden"
      aria-label="How to read the bars"
    >
      <li className="flex items-center gap-2">
        <span className="h-4 w-7 border border-ink bg-[var(--tint2)]" /> hands on
      </li>
      <li className="flex items-center gap-2">
        <span className="h-4 w-7 border border-ink" style={HATCH} /> runs alone
      </li>
      <li className="flex items-center gap-2">
        <span className="h-4 w-7 border border-wait border-dashed" /> waits for kit or a hand
      </li>
      <li className="flex items-center gap-2">
        <span className="h-4 w-7 border border-ink bg-copper" /> do next
      </li>
    </ul>
  );
}

/** What the day comes to, in one line. */
export function Summary({ day }: { day: DayState }) {
  const proven = day.jobs.filter((job) => job.state === "proven").length;
  const safe = day.jobs.filter((job) => job.state === "safe").length;
  const rest = day.jobs.length - proven - safe;
  return (
    <p className="flex flex-wrap items-center gap-x-6 gap-y-1 text-[15px]" data-testid="day">
      <span className="inline-flex items-center gap-2">
        <Shape word="Holds" /> <b>{proven} proven</b>
        {day.finish && <span className="text-soft">the last at {clock(day.finish)}</span>}
      </span>
      <span className="inline-flex items-center gap-2">
        <Shape word="Wait" /> <b>{safe} left safe</b>
      </span>
      <span className="inline-flex items-center gap-2">
        <Shape word="Stop" /> <b>{rest} not today</b>
      </span>
      {day.saved_s >= 60 && (
        <span>
          <b>{lasting(day.saved_s)}</b> sooner than one after the other
        </span>
      )}
      {!day.exact && <span className="text-soft">with this many jobs the plan is good, maybe not the best</span>}
    </p>
  );
}
