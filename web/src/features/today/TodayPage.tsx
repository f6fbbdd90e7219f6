import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, newKey, Refused, take } from "../../api/client.ts";
import { stepsOf } from "../../api/fields.ts";
import { jobsQuery } from "../../api/queries.ts";
import type { JobRow, Word } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { ago, fill } from "../../format/quantity.ts";
import { JobNaming, namingBody } from "../../parts/JobNaming.tsx";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { DayView } from "../day/DayView.tsx";
import { AlertMe } from "../day/Waits.tsx";

const NO_ANSWER = "No answer from the server. A new job needs signal; the ones opened before stay readable.";

export function TodayPage() {
  const { me } = useSession();
  const [view, setView] = useView();
  const [after, setAfter] = useState("");
  const { data, error } = useQuery(jobsQuery(view === "closed", after));
  const jobs = data?.data.jobs ?? [];
  const today = new Date().toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });
  const tabs = (
    <Toggle
      label="Jobs shown"
      value={view}
      options={{ day: "The day", open: "Open", closed: "Closed" }}
      onChange={(next) => {
        setView(next);
        setAfter("");
      }}
    />
  );
  return (
    <Frame crumb={me.shop} home>
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet px-5 py-5 md:px-7">
        <div className="flex flex-wrap items-start justify-between gap-4">
          <div>
            <h1>{today}</h1>
            <p className="text-[14px] text-soft">{said(jobs, view === "closed")}</p>
          </div>
          <Start />
        </div>
        <div className="mt-4 mb-2">
          {view === "day" ? (
            <>
              <DayView tabs={tabs} />
              <div className="mt-4">
                <AlertMe />
              </div>
            </>
          ) : (
            tabs
          )}
        </div>
        {error && <p className="note">{error.message}</p>}
        {data?.fromDevice && <p className="note">No network: this list is from {ago(data.at, Date.now())}.</p>}
        {data && jobs.length === 0 && <Empty closed={view === "closed"} />}
        {view !== "day" && <JobList jobs={jobs} />}
        {view !== "day" && data?.data.next && (
          <button type="button" className="btn mt-4" onClick={() => setAfter(data.data.next ?? "")}>
            Older jobs
          </button>
        )}
      </main>
    </Frame>
  );
}

/** Which list stands open; it survives a reload. */
function useView() {
  const [view, setView] = useState(() => sessionStorage.getItem("yoshi:today") ?? "day");
  const change = (next: string) => {
    sessionStorage.setItem("yoshi:today", next);
    setView(next);
  };
  return [view, change] as const;
}

function said(jobs: JobRow[], closed: boolean): string {
  if (closed) return `${jobs.length} closed ${jobs.length === 1 ? "job" : "jobs"}, last first.`;
  const stopped = jobs.filter((job) => job.word === "Stop").length;
  return `${jobs.length} open ${jobs.length === 1 ? "job" : "jobs"}${stopped ? `, ${stopped} stopped and waiting for a decision` : ""}.`;
}

function Empty({ closed }: { closed: boolean }) {
  if (closed) return <p className="mt-6 text-soft">No job is closed yet.</p>;
  return (
    <div className="mt-6 max-w-[520px]">
      <p>No jobs yet. The first useful number is about a minute away.</p>
      <ol className="mt-3 list-decimal pl-5 text-soft">
        <li>Refrigerant and charge, off the plate</li>
        <li>Line length and sizes give the total</li>
        <li>What the scale reads gives the mark at which to shut the valve</li>
      </ol>
    </div>
  );
}

function JobList({ jobs }: { jobs: JobRow[] }) {
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
            <VerdictBadge word={job.word as Word} />
            <span className="text-[14px] text-soft">{fill(job.headline, system)}</span>
            <span className="text-[13px] text-soft md:text-right">
              {ago(job.updated_at, Date.now())}
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
      <svg width="142" height="14" viewBox="0 0 142 14" aria-hidden="true" className="block">
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
      {job.closed ? "Closed" : (steps[now]?.label ?? "")}
    </span>
  );
}

/** New job, quick total, or a job from a file. */
function Start() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const [naming, setNaming] = useState({ title: "", circuit: "" });
  const [refused, setRefused] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const [key, setKey] = useState(newKey);

  const make = async (kind: "service" | "charge" | "quick") => {
    setRefused("");
    try {
      const body = { key, kind, ...namingBody(naming) };
      const state = await take(client.POST("/api/jobs", { body }));
      setKey(newKey());
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      navigate(`/job/${state.code}${kind === "quick" ? "" : "/identify"}`);
    } catch (error) {
      setRefused(error instanceof Refused ? error.message : NO_ANSWER);
    }
  };
  const openFile = async (chosen: File | undefined) => {
    if (!chosen) return;
    try {
      const state = await take(
        client.POST("/api/jobs/import", { body: { key: newKey(), document: await chosen.text() } }),
      );
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      navigate(`/job/${state.code}`);
    } catch (error) {
      setRefused(error instanceof Refused ? `${chosen.name} was not taken. ${error.message}` : NO_ANSWER);
    }
  };

  return (
    <div className="flex flex-wrap gap-3">
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="New job"
        trigger={
          <button type="button" className="btn go">
            New job
          </button>
        }
      >
        <JobNaming value={naming} onChange={setNaming} />
        <p className="mt-5 flex flex-wrap gap-3">
          <button type="button" className="btn go" onClick={() => void make("service")}>
            Whole job: gauges on first
          </button>
          <button type="button" className="btn" onClick={() => void make("charge")}>
            Charge only: it is empty already
          </button>
        </p>
        {refused && (
          <p className="note stop mt-4" role="alert">
            {refused}
          </p>
        )}
      </Dialog>
      <button type="button" className="btn" onClick={() => void make("quick")}>
        Quick total
      </button>
      <button type="button" className="btn" onClick={() => file.current?.click()}>
        Open a file
      </button>
      <input
        ref={file}
        type="file"
        aria-label="Job file to open"
        className="hidden"
        accept=".json,application/json"
        onChange={(event) => {
          void openFile(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      {refused && !open && (
        <p className="note stop w-full" role="alert">
          {refused}
        </p>
      )}
    </div>
  );
}
