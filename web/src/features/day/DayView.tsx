import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { dayQuery } from "../../api/queries.ts";
import { useSession } from "../../app/session.ts";
import { localInput } from "../../fields/MomentField.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { useWide } from "../../ui/useWide.ts";
import { Chart } from "./DayChart.tsx";
import { Hours } from "./Hours.tsx";
import { Listed } from "./Listed.tsx";
import { useLeave } from "./leave.ts";
import { Legend, Summary } from "./Summary.tsx";

/** The day on the clock: what to do next, what runs alone, what is proven before the van leaves. */
export function DayView({ tabs }: { tabs?: ReactNode }) {
  const { me } = useSession();
  const { time, ask, whose, setTime, setWhose, setOutside, takeIn, ...hand } = useLeave(me.role !== "technician");
  const { data, error } = useQuery(dayQuery(ask));
  const wide = useWide();
  return (
    <section aria-label="The day">
      <div className="flex flex-wrap items-end justify-between gap-4">
        <div className="flex flex-wrap items-end gap-4">
          {tabs}
          <label className="block">
            <span className="lab block">the van leaves at</span>
            <input
              type="time"
              className="control"
              style={{ width: 130 }}
              value={time || (data ? localInput(data.leave).slice(11, 16) : "")}
              onChange={(event) => setTime(event.target.value)}
            />
          </label>
          {me.role !== "technician" && (
            <Toggle
              label="Whose jobs"
              value={whose}
              options={{ mine: "Mine", all: "Everybody's" }}
              onChange={setWhose}
            />
          )}
        </div>
        <Legend />
      </div>
      {error && (
        <p className="note mt-3">No answer from the server, so there is no plan now. Waits go on all the same.</p>
      )}
      {data && (
        <>
          <Hours day={data} outside={ask.outside} onOutside={setOutside} />
          <Summary day={data} />
          {data.jobs.length === 0 && (
            <p className="mt-6 text-soft">
              {whose === "mine" ? "No open job of yours" : "No open job"} is on today's plan.
            </p>
          )}
          {wide ? <Chart day={data} hand={hand} /> : <Listed day={data} hand={hand} />}
          {data.skipped.length > 0 && (
            <p className="mt-3 text-[14px] text-soft">
              Not today:{" "}
              {data.skipped.map((job) => (
                <button key={job.code} type="button" className="btn quiet" onClick={() => takeIn(job.code)}>
                  {job.title}, take it in
                </button>
              ))}
            </p>
          )}
        </>
      )}
    </section>
  );
}
