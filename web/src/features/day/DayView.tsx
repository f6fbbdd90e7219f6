import { useState } from "react";
import type { DayState } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { clock } from "../../format/quantity.ts";
import { TimeOfDay } from "../../parts/TimeOfDay.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { useWide } from "../../ui/useWide.ts";
import { Chart } from "./DayChart.tsx";
import { Hours } from "./Hours.tsx";
import { Listed } from "./Listed.tsx";
import { useLeave } from "./leave.ts";
import { Rows } from "./Rows.tsx";
import { Legend, Summary } from "./Summary.tsx";

const CHART = "yoshi:day-as-chart";
type Shown = "folded" | "list" | "chart";

/** The rest of the day: in one line for one job, else a row a job; as a chart on demand. On a phone it is folded. */
export function DayView({ day }: { day: DayState }) {
  const { me } = useSession();
  const { time, ask, whose, setTime, setWhose, setOutside, takeIn, ...hand } = useLeave(me.role !== "technician");
  const wide = useWide();
  const [shown, setShown] = useShown(wide);
  const off = day.open - day.jobs.length - day.skipped.length - day.decisions.filter((row) => row.visit).length;
  return (
    <section aria-label="The day" className="mt-5 border-t border-ink pt-3">
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <h2 className="text-[17px]">The day until {clock(day.leave)}</h2>
        <Summary day={day} />
        <div className="flex flex-wrap items-center gap-3">
          {shown !== "folded" && (
            <TimeOfDay label="the van leaves at" value={time || timeOf(day.leave)} onChange={setTime} beside />
          )}
          {me.role !== "technician" && shown !== "folded" && (
            <Toggle
              label="Whose jobs"
              value={whose}
              options={{ mine: "Mine", all: "Everybody's" }}
              onChange={setWhose}
            />
          )}
          {wide ? (
            <button
              type="button"
              className="btn quiet"
              aria-expanded={shown === "chart"}
              onClick={() => setShown(shown === "chart" ? "list" : "chart")}
            >
              {shown === "chart" ? "as a list" : "as a chart"}
            </button>
          ) : (
            <button
              type="button"
              className="btn quiet"
              aria-expanded={shown !== "folded"}
              onClick={() => setShown(shown === "folded" ? "list" : "folded")}
            >
              {shown === "folded" ? "Show it" : "Fold it"}
            </button>
          )}
        </div>
      </div>
      <Hours day={day} outside={ask.outside} onOutside={setOutside} />
      {shown !== "folded" && (
        <>
          {day.jobs.length === 0 && (
            <p className="mt-4 text-soft">
              {whose === "mine" ? "No open job of yours" : "No open job"} is on today's plan.
            </p>
          )}
          {shown === "chart" && wide && (
            <>
              <Legend />
              <Chart day={day} hand={hand} />
            </>
          )}
          {shown === "list" && (wide ? <Rows day={day} hand={hand} /> : <Listed day={day} hand={hand} />)}
          {day.skipped.length > 0 && (
            <p className="mt-3 text-[14px] text-soft">
              Not today:{" "}
              {day.skipped.map((job) => (
                <button key={job.code} type="button" className="btn quiet" onClick={() => takeIn(job.code)}>
                  {job.title}, take it in
                </button>
              ))}
            </p>
          )}
          {off > 0 && (
            <p className="mt-3 text-[15px] text-soft">
              {off === 1 ? "One more open job is" : `${off} more open jobs are`} not planned: the day holds the twelve
              touched last.
            </p>
          )}
        </>
      )}
    </section>
  );
}

/** Its time of day as 17:00. */
function timeOf(moment: string): string {
  return new Date(moment).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}

/** How the plan is shown; this device remembers a chart that was asked for. */
function useShown(wide: boolean) {
  const [chosen, setChosen] = useState<Shown>(() => (localStorage.getItem(CHART) === "chart" ? "chart" : "list"));
  const [unfolded, setUnfolded] = useState(false);
  const shown: Shown = wide ? (chosen === "chart" ? "chart" : "list") : unfolded ? "list" : "folded";
  const change = (next: Shown) => {
    if (!wide) {
      setUnfolded(next !== "folded");
      return;
    }
    setChosen(next);
    try {
      localStorage.setItem(CHART, next);
    } catch {
      // asked for again next time
    }
  };
  return [shown, change] as const;
}
