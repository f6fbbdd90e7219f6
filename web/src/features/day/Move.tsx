import type { DayJob } from "../../api/types.ts";
import { clock, lasting } from "../../format/quantity.ts";
import { TimeOfDay } from "../../parts/TimeOfDay.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import type { useLeave } from "./leave.ts";

export type Hand = Pick<ReturnType<typeof useLeave>, "later" | "notBefore" | "leaveOut">;

/** Move a job by hand: not before a time, or not today; where it could stop, and what a return takes. */
export function Move({ job, hand }: { job: DayJob; hand: Hand }) {
  return (
    <Dialog
      title={job.title}
      trigger={
        <button type="button" className="chip shrink-0" aria-label={`move: ${job.title}`}>
          move
        </button>
      }
    >
      <div className="grid gap-5 text-[15px]">
        <div>
          <TimeOfDay
            label="not before"
            value={hand.later[job.code] ?? ""}
            onChange={(time) => hand.notBefore(job.code, time)}
          />
          <p className="mt-1 text-[14px] text-soft">
            A part comes, a room is free, somebody opens the door. Everything else is planned around it.
          </p>
        </div>
        <p>
          <button type="button" className="btn" onClick={() => hand.leaveOut(job.code)}>
            Not today
          </button>
        </p>
        <Stops job={job} />
        {!job.proven && job.rest_s > 0 && (
          <p>
            Coming back takes <b>{lasting(job.rest_s)}</b> more.
          </p>
        )}
      </div>
    </Dialog>
  );
}

/** Where the work could stop safely before the van leaves. */
function Stops({ job }: { job: DayJob }) {
  if (job.proven) return null;
  return (
    <section aria-label="Where it can stop safely">
      <h3>Where it can stop safely</h3>
      {job.stops.length === 0 && <p className="text-soft">Nowhere before the van leaves.</p>}
      <ul>
        {job.stops.map((stop) => (
          <li key={stop.at} className="flex gap-4 border-t border-rule py-2">
            <b className="w-[60px]">{clock(stop.at)}</b> {stop.how}
          </li>
        ))}
      </ul>
    </section>
  );
}
