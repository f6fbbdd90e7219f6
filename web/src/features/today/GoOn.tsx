import { Link } from "react-router";
import { stepLabel, stepsOf } from "../../api/fields.ts";
import type { DayJob, DayState } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { clock } from "../../format/quantity.ts";

const SOON_MS = 5 * 60_000;

/** What the plan has these hands do now; else the job worked on last that something can be done for, else the last one. */
export function goOnWith(jobs: DayJob[], name: string, now = 0): DayJob | undefined {
  const mine = jobs.filter((job) => job.technician === name);
  const own = mine.length ? mine : jobs;
  const planned = own.find((job) =>
    job.slots.some((slot) => slot.hands && new Date(slot.start).getTime() <= now + SOON_MS),
  );
  return (
    planned ??
    own.find((job) => job.word !== "Stop" && !job.waits_until) ??
    own.find((job) => job.word !== "Stop") ??
    own[0]
  );
}

/** What comes after it for the same hands, on another job. */
function after(day: DayState, job: DayJob): { at: string; title: string; what: string } | undefined {
  const rest = day.jobs
    .filter((other) => other.code !== job.code && other.technician === job.technician)
    .flatMap((other) => other.slots.filter((slot) => slot.hands).map((slot) => ({ ...slot, title: other.title })))
    .sort((a, b) => a.start.localeCompare(b.start));
  const first = rest[0];
  return first && { at: first.start, title: first.title, what: first.label };
}

export function GoOn({ day, one }: { day: DayState; one: boolean }) {
  const { me, system } = useSession();
  const job = goOnWith(day.jobs, me.name, new Date(day.now).getTime());
  if (!job)
    return (
      <section aria-label="Go on with">
        <h2 className="text-copper">Go on with</h2>
        <p className="mt-2 text-[16px]">Nothing is on today's plan. What waits stands beside.</p>
      </section>
    );
  const next = after(day, job);
  return (
    <section aria-label="Go on with" className="pb-4">
      <h2 className="text-[16px] text-copper">Go on with</h2>
      <p className={`num leading-[1.05] ${one ? "text-[44px] md:text-[54px]" : "text-[32px]"}`}>{job.title}</p>
      <p className="mt-2 text-[17px]">
        <b className="font-semibold">{stepLabel(job.step)}:</b> {fill(job.headline, system)}
      </p>
      {job.carried && <p className="mt-1 text-[15px]">{fill(job.carried, system)}</p>}
      {one && <Progress job={job} />}
      <p className="mt-4 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Link to={`/job/${job.code}`} className="btn go max-md:w-full" style={{ minHeight: 52, padding: "0 28px" }}>
          {one ? "Open the job" : "Go on"}
        </Link>
        {next && (
          <span className="text-[15px] text-soft">
            then, at {clock(next.at)}:
            <br />
            {next.title}, {next.what}
          </span>
        )}
      </p>
    </section>
  );
}

/** Its steps as a run of fittings, with their names. */
function Progress({ job }: { job: DayJob }) {
  const steps = stepsOf(job.kind);
  const now = steps.findIndex((step) => step.id === job.step);
  return (
    <ol className="mt-6 flex gap-1 max-md:hidden" aria-label="Steps of this job">
      {steps.map((step, n) => (
        <li key={step.id} className="relative flex-1 text-center" aria-current={n === now ? "step" : undefined}>
          {n > 0 && (
            <span
              aria-hidden="true"
              className="absolute top-[7px] right-[calc(50%+12px)] left-[calc(-50%+12px)] h-[6px] border-y-[1.4px]"
              style={{ borderColor: n <= now ? "var(--line)" : "var(--rule)" }}
            />
          )}
          <svg width="24" height="20" viewBox="0 0 24 20" aria-hidden="true" className="mx-auto block">
            <path
              d="M7.5 2.5h9l5 7.5-5 7.5h-9l-5-7.5z"
              fill={n < now ? "var(--line)" : n === now ? "var(--copper)" : "var(--sheet)"}
              stroke={n <= now ? "var(--copper)" : "var(--edge)"}
              strokeWidth="1.5"
            />
          </svg>
          <span
            className={`num mt-1 block text-[14px] leading-[17px] ${n === now ? "text-copper" : n < now ? "" : "text-soft"}`}
          >
            {step.label}
          </span>
        </li>
      ))}
    </ol>
  );
}
