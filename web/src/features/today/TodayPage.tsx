import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { Link } from "react-router";
import { dayQuery } from "../../api/queries.ts";
import type { DayState } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { OPEN } from "../../app/Palette.tsx";
import { useSession } from "../../app/session.ts";
import { useNow } from "../../device/useNow.ts";
import { clock } from "../../format/quantity.ts";
import { Waiting } from "../../parts/Waiting.tsx";
import { useWide } from "../../ui/useWide.ts";
import { DayView } from "../day/DayView.tsx";
import { useLeave } from "../day/leave.ts";
import { Alarm, AlertMe } from "../day/Waits.tsx";
import { Decisions } from "./Decisions.tsx";
import { GoOn } from "./GoOn.tsx";
import { Runs } from "./Runs.tsx";
import { Start } from "./Start.tsx";

const ReadyLine = lazy(() => import("../along/ReadyLine.tsx"));
const Here = lazy(() => import("./Here.tsx"));

/** What to go on with, what runs by itself, what waits for somebody; then the rest of the day. */
export function TodayPage() {
  const { me } = useSession();
  const { ask } = useLeave(me.role !== "technician");
  const { data, error } = useQuery(dayQuery(ask));
  const wide = useWide();
  const now = useNow(20_000);
  const today = new Date(now).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });
  return (
    <Frame crumb={me.shop} home>
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet px-5 py-5 md:px-7">
        <div className="flex flex-wrap items-start justify-between gap-4">
          <div>
            <h1>
              {today}, {clock(now)}
            </h1>
            <p className="text-[15px] text-soft" data-testid="said">
              {data ? said(data) : ""}
            </p>
          </div>
          {wide && (
            <div className="flex flex-wrap items-start gap-3">
              <button
                type="button"
                className="btn"
                style={{ borderColor: "var(--edge)", fontWeight: 400, color: "var(--soft)" }}
                onClick={() => window.dispatchEvent(new Event(OPEN))}
              >
                Job, system, cylinder, refrigerant <b className="ml-3 text-ink">Ctrl K</b>
              </button>
              <Start />
            </div>
          )}
        </div>
        {error && (
          <p className="note mt-3">No answer from the server, so there is no plan now. Waits go on all the same.</p>
        )}
        {error && (
          <Suspense fallback={null}>
            <Here />
          </Suspense>
        )}
        {!data && !error && <Waiting rows={4} />}
        {data && data.open === 0 && <Nothing />}
        {data && data.open > 0 && <Three day={data} />}
        {data && data.open > 0 && <DayView day={data} />}
        {data && (
          <p className="mt-5 flex flex-wrap items-center gap-4">
            <AllJobs count={data.open} />
            <AlertMe />
          </p>
        )}
        {(data || error) && (
          <>
            <Alarm />
            <Suspense fallback={null}>
              <ReadyLine />
            </Suspense>
          </>
        )}
      </main>
      {!wide && (
        <div className="border-t border-rule bg-paper p-3">
          <Start />
        </div>
      )}
    </Frame>
  );
}

function Three({ day }: { day: DayState }) {
  const one = day.open === 1;
  return (
    <div
      className={`mt-4 grid gap-x-6 border-t border-ink max-md:gap-y-5 ${
        one
          ? "pt-6 md:grid-cols-[minmax(0,1fr)_330px]"
          : "pt-3 md:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)_minmax(0,1.4fr)]"
      }`}
    >
      <GoOn day={day} one={one} />
      {one ? (
        <div className="grid content-start gap-6 border-rule md:border-l md:pl-6">
          <Runs day={day} one />
          <Decisions day={day} />
        </div>
      ) : (
        <>
          <div className="border-rule md:border-l md:pl-6">
            <Runs day={day} />
          </div>
          <div className="border-rule md:border-l md:pl-6">
            <Decisions day={day} />
          </div>
        </>
      )}
    </div>
  );
}

function AllJobs({ count }: { count?: number }) {
  return (
    <Link to="/jobs" className="btn">
      {count ? (count === 1 ? "All jobs" : `All ${count} open jobs`) : "All jobs"}
    </Link>
  );
}

function said(day: DayState): string {
  const jobs = `${day.open || "No"} ${day.open === 1 ? "job" : "jobs"} open`;
  return `${jobs}${day.people > 1 ? `, ${day.people} people` : ""}. The van leaves at ${clock(day.leave)}.`;
}

function Nothing() {
  return (
    <div className="mt-10 max-w-[560px]">
      <h2 className="text-[26px] leading-[32px]">No job is open.</h2>
      <p className="mt-3 text-[17px]">The first useful number is about a minute away:</p>
      <ol className="mt-3 list-decimal pl-5 text-[16px]">
        <li>Refrigerant and charge, off the plate</li>
        <li>Line length and sizes give the total</li>
        <li>What the scale reads gives the mark at which to shut the valve</li>
      </ol>
      <p className="mt-4 text-soft">
        “New job” takes you through a whole repair. “Quick total” is the sum alone, off any plate.
      </p>
    </div>
  );
}
