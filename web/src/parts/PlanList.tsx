import type { PlanRow, System } from "../api/types.ts";
import { fill } from "../format/message.ts";
import { clock, show } from "../format/quantity.ts";

const STATES = { done: "done", now: "now", later: "later" } as const;

/** What is to be done in which order; the one at hand in copper. */
export function PlanList({ rows, system, title }: { rows: PlanRow[]; system: System; title: string }) {
  if (!rows.length) return null;
  return (
    <section aria-label={title} className="mt-4">
      <h2>{title}</h2>
      <ol className="mt-1">
        {rows.map((row) => (
          <li
            key={row.id}
            aria-current={row.state === "now" ? "step" : undefined}
            className={`flex min-h-[34px] items-baseline gap-3 border-t border-rule py-1 text-[15px] ${
              row.state === "now" ? "font-semibold text-copper" : row.state === "done" ? "text-soft" : ""
            }`}
          >
            <Fitting state={row.state} />
            <span className="flex-1">
              {fill(row.text, system)} <span className="sr-only">({STATES[row.state]})</span>
            </span>
            <span className="text-[14px] whitespace-nowrap text-soft">
              {row.at && row.state !== "done"
                ? `until ${clock(row.at)}`
                : row.duration
                  ? show(row.duration.value, row.duration.quantity, system)
                  : ""}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** The pipe's fitting, small: filled when done, open when it is still to do. */
function Fitting({ state }: { state: PlanRow["state"] }) {
  const colour = state === "now" ? "var(--copper)" : "var(--edge)";
  return (
    <svg width="16" height="12" viewBox="0 0 16 12" aria-hidden="true" className="shrink-0 self-center">
      <path
        d="M4.5 1h7l3.5 5-3.5 5h-7L1 6z"
        fill={state === "later" ? "none" : colour}
        stroke={colour}
        strokeWidth="1.4"
      />
    </svg>
  );
}
