import { Link } from "react-router";
import { stepLabel } from "../../api/fields.ts";
import type { DayJob, DayState } from "../../api/types.ts";
import { clock, day as dayOf } from "../../format/quantity.ts";
import { Countdown } from "../../parts/Countdown.tsx";

type Running = { job: DayJob; until: string; decides: string };
const SOON_MS = 10 * 3600_000;
const MOST = 5;

/** What goes on without a hand, soonest first, with when it tells something. */
function running(day: DayState): Running[] {
  const now = new Date(day.now).getTime();
  return day.jobs
    .flatMap((job): Running[] => {
      if (job.waits_until) return [{ job, until: job.waits_until, decides: job.waits_for }];
      const slot = job.slots.find((one) => !one.hands && new Date(one.start).getTime() <= now + 60_000);
      return job.running && slot ? [{ job, until: slot.end, decides: slot.label }] : [];
    })
    .sort((a, b) => a.until.localeCompare(b.until));
}

/** When it tells: a clock time today, with its day after that. */
function tells(until: string, now: number): string {
  const far = new Date(until).toDateString() !== new Date(now).toDateString();
  return far ? `${dayOf(until)}, ${clock(until)}` : clock(until);
}

export function Runs({ day, one }: { day: DayState; one?: boolean }) {
  const now = new Date(day.now).getTime();
  const all = running(day);
  const first = all[0];
  return (
    <section aria-label="Runs by itself" className="pb-3">
      <h2 className="flex justify-between border-b border-rule pb-1 text-[16px]">
        Runs by itself {all.length > 0 && <span className="font-normal text-soft">{one ? "" : "tells at"}</span>}
      </h2>
      {!first && <p className="mt-2 text-[15px] text-soft">Nothing runs now.</p>}
      {one && first ? (
        <>
          <p className="num mt-1 text-[64px] leading-[68px]">
            <Countdown until={first.until} />
          </p>
          <p className="text-[16px]">
            <b>
              {stepLabel(first.job.step)}, tells at {tells(first.until, now)}
            </b>
            <span className="block text-[15px] text-soft">{first.decides}</span>
          </p>
        </>
      ) : (
        <ul>
          {all.slice(0, MOST).map(({ job, until, decides }) => (
            <li key={job.code} className="border-b border-rule">
              <Link
                to={`/job/${job.code}`}
                className="grid min-h-[48px] grid-cols-[66px_minmax(0,1fr)_auto] items-baseline gap-3 py-2 hover:bg-tint"
              >
                <b className="num text-[18px]">
                  {new Date(until).getTime() - now < SOON_MS ? (
                    <Countdown until={until} />
                  ) : (
                    new Date(until).toLocaleDateString("en-GB", { weekday: "short" })
                  )}
                </b>
                <span className="min-w-0">
                  <span className="block text-[16px] font-semibold">{job.title}</span>
                  <span className="block text-[14px] text-soft">
                    {[stepLabel(job.step), decides].filter(Boolean).join(": ")}
                  </span>
                </span>
                <b>{tells(until, now)}</b>
              </Link>
            </li>
          ))}
        </ul>
      )}
      {all.length > MOST && (
        <p className="mt-1 text-[14px] text-soft">and {all.length - MOST} more, on the plan below</p>
      )}
    </section>
  );
}
