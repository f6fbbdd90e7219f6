import { useState } from "react";
import { Link } from "react-router";
import { stepLabel } from "../../api/fields.ts";
import type { DayState, WaitingJob } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { Shape } from "../../parts/shapes.tsx";

const FIRST = 3;
const BETWEEN: Record<string, string> = {
  left_safe: "left safe",
  running_not_proven: "running, not proven",
  handed_over: "handed over",
};

/** Jobs that go on only once somebody decided or came back, and whose it is. */
export function Decisions({ day }: { day: DayState }) {
  const { me, system } = useSession();
  const [all, setAll] = useState(false);
  const rows = all ? day.decisions : day.decisions.slice(0, FIRST);
  const whose = (row: WaitingJob) => (row.technician === me.name ? "you" : row.technician);
  return (
    <section aria-label="Waits for a decision" className="pb-3">
      <h2 className="flex justify-between border-b border-rule pb-1 text-[16px]">
        Waits for a decision {rows.length > 0 && <span className="font-normal text-soft">by</span>}
      </h2>
      {rows.length === 0 && (
        <p className="mt-2 flex items-center gap-2 text-[16px] text-soft">
          <Shape word="Holds" /> Nothing
        </p>
      )}
      <ul>
        {rows.map((row) => (
          <li key={row.code} className="border-b border-rule">
            <Link to={`/job/${row.code}`} className="block min-h-[48px] py-2 hover:bg-tint">
              <span className="flex items-baseline justify-between gap-3">
                <b className="flex items-baseline gap-2 text-[16px]">
                  {row.stopped && <Shape word="Stop" size={13} />} {row.title}
                </b>
                <span className="shrink-0 text-[14px] text-soft">{whose(row)}</span>
              </span>
              <span className="block text-[15px]">
                {row.stopped ? `${stepLabel(row.step)}: ${fill(row.what, system)}` : between(row)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {day.decisions.length > FIRST && (
        <button type="button" className="btn quiet" onClick={() => setAll(!all)}>
          {all ? "Fewer" : `${day.decisions.length - FIRST} more`}
        </button>
      )}
    </section>
  );
}

function between(row: WaitingJob): string {
  const said = [
    BETWEEN[row.visit],
    row.awaited && `waits for ${row.awaited}`,
    row.return_on && `back ${row.return_on}`,
  ];
  return said.filter(Boolean).join(", ");
}
