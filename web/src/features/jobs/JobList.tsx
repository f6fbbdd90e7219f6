import { Link } from "react-router";
import { stepsOf } from "../../api/fields.ts";
import type { JobRow, Word } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { nowMs } from "../../device/time.ts";
import { fill } from "../../format/message.ts";
import { ago } from "../../format/quantity.ts";
import { VerdictBadge } from "../../parts/shapes.tsx";

export function JobList({ jobs }: { jobs: JobRow[] }) {
  const { system } = useSession();
  return (
    <ul>
      {jobs.map((job) => (
        <li key={job.code} className="border-t border-rule">
          <Link
            to={`/job/${job.code}`}
            className="grid items-center gap-x-6 gap-y-1 py-3 hover:bg-tint md:grid-cols-[minmax(0,1.2fr)_150px_90px_minmax(0,1.6fr)_110px]"
          >
            <span className="min-w-0">
              <b className="block text-[16px]">{job.title}</b>
              <span className="text-[14px] text-soft">
                {[job.work_order && `work order ${job.work_order}`, job.site, job.technician]
                  .filter(Boolean)
                  .join(" · ")}
              </span>
            </span>
            <Progress job={job} />
            <VerdictBadge word={job.word as Word} step={job.step} />
            <span className="text-[14px] text-soft">
              {fill(job.headline, system)}
              {job.carried && <span className="mt-1 block text-ink">{fill(job.carried, system)}</span>}
            </span>
            <span className="text-[14px] text-soft md:text-right">
              {ago(job.updated_at, nowMs())}
              {between(job) && <b className="block text-wait">{between(job)}</b>}
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

/** Between two visits: how the last one ended and when somebody comes back. */
function between(job: JobRow): string {
  const ended: Record<string, string> = {
    running_not_proven: "running, not proven",
    left_safe: "left safe",
    handed_over: "handed over",
  };
  const said = ended[job.visit];
  if (job.discarded) return "discarded";
  if (!said || job.closed) return "";
  return job.return_on ? `${said}, back ${job.return_on}` : said;
}

/** Where the job stands, as a short run of fittings. */
function Progress({ job }: { job: JobRow }) {
  if (job.kind === "quick") return <span className="text-[14px]">Quick total</span>;
  const steps = stepsOf(job.kind);
  const apart = steps.length > 7 ? 14 : 19;
  const now = job.closed ? steps.length : steps.findIndex((s) => s.id === job.step);
  return (
    <span className="text-[14px]">
      <svg
        width="142"
        height="14"
        viewBox={`0 0 ${Math.max((steps.length - 1) * apart + 18, 142)} 14`}
        aria-hidden="true"
        className="block"
      >
        <path d={`M4 7h${(steps.length - 1) * apart}`} stroke="var(--rule)" strokeWidth="3" />
        {steps.map((step, n) => (
          <path
            key={step.id}
            d={`M${n * apart + 4} 2h6l3 5-3 5h-6l-3-5z`}
            fill={n < now ? "var(--line)" : "var(--sheet)"}
            stroke={n <= now ? "var(--copper)" : "var(--edge)"}
            strokeWidth="1.4"
          />
        ))}
      </svg>
      {job.discarded ? "Discarded" : job.closed ? "Closed" : (steps[now]?.label ?? "")}
    </span>
  );
}
