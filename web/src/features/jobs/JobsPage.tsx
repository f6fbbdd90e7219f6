import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { STEP_NAMES } from "../../api/fields.ts";
import { type JobsAsk, jobsQuery, peopleQuery } from "../../api/queries.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { nowMs } from "../../device/time.ts";
import { ago } from "../../format/quantity.ts";
import { Field, Select } from "../../parts/Field.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { Waiting } from "../../parts/Waiting.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { Start } from "../today/Start.tsx";
import { BegunHere, useBegunHere } from "./BegunHere.tsx";
import { JobList } from "./JobList.tsx";

const LISTS = { open: "Open", quick: "Quick totals", closed: "Closed", discarded: "Discarded" };
const WORDS = { "": "any", Open: "Open", Wait: "Wait", Stop: "Stop", Holds: "Holds" };
const NONE: Record<string, string> = {
  open: "No job is open.",
  quick: "No quick total is kept.",
  closed: "No job is closed yet.",
  discarded: "Nothing was discarded.",
};

/** All jobs: searched, sorted, filtered, by pages. What is asked for stands in the address, so that a reload keeps it. */
export default function JobsPage() {
  const { me } = useSession();
  const [asked, setAsked] = useSearchParams();
  const get = (name: string) => asked.get(name) ?? "";
  const search = useSettled(get("search"));
  const listed = (get("list") || "open") as NonNullable<JobsAsk["listed"]>;
  const { data, error, isPlaceholderData } = useQuery(
    jobsQuery({
      listed,
      search,
      after: get("after"),
      step: get("step"),
      word: get("word"),
      whose: get("whose"),
      sort: get("sort") === "name" ? "name" : "touched",
    }),
  );
  const begun = useBegunHere();
  const people = useQuery({ ...peopleQuery, enabled: me.role !== "technician" });
  const set = (name: string, value: string) =>
    setAsked(
      (before) => {
        const next = new URLSearchParams(before);
        if (name !== "after") next.delete("after");
        if (value) next.set(name, value);
        else next.delete(name);
        return next;
      },
      { replace: name === "search" },
    );
  const jobs = data?.data.jobs ?? [];
  const narrowed = ["search", "step", "word", "whose"].some(get);
  return (
    <Frame crumb="Jobs" place={me.shop}>
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet px-5 py-5 md:px-7">
        <div className="flex flex-wrap items-start justify-between gap-4">
          <div>
            <h1>Jobs</h1>
            <p className="text-[15px] text-soft">{data ? counted(data.data) : ""}</p>
          </div>
          <Start />
        </div>
        <div className="mt-4 mb-3 flex flex-wrap items-end gap-x-5 gap-y-1">
          <Toggle
            label="Jobs shown"
            value={listed}
            options={LISTS}
            onChange={(next) => set("list", next === "open" ? "" : next)}
          />
          <div className="min-w-[180px] flex-1">
            <Field
              label="find"
              value={get("search")}
              onChange={(text) => set("search", text)}
              hint="a job, a unit, a site"
            />
          </div>
          <Select
            label="sort by"
            value={get("sort")}
            options={{ "": "last touched", name: "name" }}
            onChange={(value) => set("sort", value)}
          />
          <Select
            label="step"
            value={get("step")}
            options={{ "": "any", ...STEP_NAMES }}
            onChange={(v) => set("step", v)}
          />
          <Select label="says" value={get("word")} options={WORDS} onChange={(value) => set("word", value)} />
          {people.data && (
            <Select
              label="whose"
              value={get("whose")}
              options={{ "": "anybody's", ...Object.fromEntries(people.data.people.map((p) => [p.username, p.name])) }}
              onChange={(value) => set("whose", value)}
            />
          )}
        </div>
        {error && <p className="note">{error.message}</p>}
        {data?.fromDevice && <p className="note">No network: this list is from {ago(data.at, nowMs())}.</p>}
        {!data && !error && <Waiting rows={6} />}
        {data && jobs.length === 0 && !isPlaceholderData && (
          <p className="mt-6 text-[16px]">{narrowed ? "No job here is like that." : NONE[listed]}</p>
        )}
        {(listed === "open" || listed === "quick") && !narrowed && <BegunHere jobs={begun} />}
        <JobList jobs={jobs} />
        <p className="mt-4 flex gap-3">
          {get("after") && (
            <button type="button" className="btn quiet" onClick={() => set("after", "")}>
              First page
            </button>
          )}
          {data?.data.next && (
            <button type="button" className="btn" onClick={() => set("after", data.data.next ?? "")}>
              More jobs
            </button>
          )}
        </p>
      </main>
    </Frame>
  );
}

function counted({ open, quick, stopped }: { open: number; quick: number; stopped: number }): string {
  const parts = [
    `${open} open`,
    stopped && `${stopped} of them stopped`,
    quick && `${quick} quick ${quick === 1 ? "total" : "totals"}`,
  ];
  return `${parts.filter(Boolean).join(", ")}.`;
}
