import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { jobsQuery } from "../../api/queries.ts";
import type { JobRow } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { ago } from "../../format/quantity.ts";
import { Toggle } from "../../ui/Toggle.tsx";
import { DayView } from "../day/DayView.tsx";
import { AlertMe } from "../day/Waits.tsx";
import { Empty, JobList } from "./JobList.tsx";
import { Start } from "./Start.tsx";

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
