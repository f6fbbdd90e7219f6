import { useQuery } from "@tanstack/react-query";
import { type CSSProperties, Fragment } from "react";
import { Link } from "react-router";
import { stepsOf } from "../../api/fields.ts";
import { dayQuery } from "../../api/queries.ts";
import type { DayJob, DayState, SlotRow, Word } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { clock, show } from "../../format/quantity.ts";
import { Countdown } from "../../parts/Countdown.tsx";
import { Shape, VerdictBadge } from "../../parts/shapes.tsx";
import { useNow } from "../../ui/useNow.ts";
import { useWide } from "../../ui/useWide.ts";
import { useLeave } from "./leave.ts";

const HATCH: CSSProperties = {
  backgroundImage: "repeating-linear-gradient(135deg, var(--tint2) 0 2px, transparent 2px 7px)",
};
const STEPS_MIN = [15, 30, 60, 120, 240];
const USUAL_PX = 620;
const LETTER_PX = 7;

/** The day on the clock: what to do next, what runs alone, what is proven before the van leaves. */
export function DayView() {
  const { time, leave, setTime, out, leaveOut, takeIn } = useLeave();
  const { data, error } = useQuery(dayQuery(leave, out));
  const wide = useWide();
  return (
    <section aria-label="The day">
      <div className="flex flex-wrap items-end justify-between gap-4">
        <label className="block">
          <span className="lab block">the van leaves at</span>
          <input
            type="time"
            className="control"
            style={{ width: 130 }}
            value={time}
            onChange={(event) => setTime(event.target.value)}
          />
        </label>
        <Legend />
      </div>
      {error && (
        <p className="note mt-3">No answer from the server, so there is no plan now. Waits go on all the same.</p>
      )}
      {data && (
        <>
          <Summary day={data} />
          {data.jobs.length === 0 && <p className="mt-6 text-soft">No open job of yours is on today's plan.</p>}
          {wide ? <Chart day={data} onLeaveOut={leaveOut} /> : <Listed day={data} />}
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

function Legend() {
  return (
    <ul
      className="flex flex-wrap gap-x-5 gap-y-1 text-[14px] text-soft max-md:hidden"
      aria-label="How to read the bars"
    >
      <li className="flex items-center gap-2">
        <span className="h-4 w-7 border border-ink bg-[var(--tint2)]" /> hands on
      </li>
      <li className="flex items-center gap-2">
        <span className="h-4 w-7 border border-ink" style={HATCH} /> runs alone
      </li>
      <li className="flex items-center gap-2">
        <span className="h-4 w-7 border border-ink bg-copper" /> do next
      </li>
    </ul>
  );
}

/** What the day comes to, in one line. */
function Summary({ day }: { day: DayState }) {
  const { system } = useSession();
  const proven = day.jobs.filter((job) => job.proven).length;
  const safe = day.jobs.filter((job) => !job.proven && job.left && job.left !== "not begun").length;
  const rest = day.jobs.length - proven - safe;
  const minutes = (seconds: number) => show(seconds, "duration", system);
  return (
    <p
      className="mt-3 flex flex-wrap items-center gap-x-6 gap-y-1 border-y border-rule py-2 text-[15px]"
      data-testid="day"
    >
      <span className="inline-flex items-center gap-2">
        <Shape word="Holds" /> <b>{proven} proven</b>
        {day.finish && <span className="text-soft">the last at {clock(day.finish)}</span>}
      </span>
      <span className="inline-flex items-center gap-2">
        <Shape word="Wait" /> <b>{safe} left safe</b>
      </span>
      <span className="inline-flex items-center gap-2">
        <Shape word="Stop" /> <b>{rest} not today</b>
      </span>
      {day.saved_s >= 60 && (
        <span>
          <b>{minutes(day.saved_s)}</b> sooner than one after the other
        </span>
      )}
      {!day.exact && <span className="text-soft">more than six jobs: a good plan, not proven the best</span>}
    </p>
  );
}

/** From now to a little after the van leaves, or to the last task. */
function span(day: DayState): { from: number; until: number } {
  const from = new Date(day.now).getTime();
  const ends = day.jobs.flatMap((job) => job.slots.map((slot) => new Date(slot.end).getTime()));
  const leave = new Date(day.leave).getTime();
  return { from, until: Math.max(Math.min(Math.max(...ends, from), leave + 3600_000), leave, from + 1800_000) };
}

function Chart({ day, onLeaveOut }: { day: DayState; onLeaveOut: (code: string) => void }) {
  const { from, until } = span(day);
  const now = useNow(5000);
  const x = (moment: string | number) =>
    `${Math.min(100, Math.max(0, ((new Date(moment).getTime() - from) / (until - from)) * 100))}%`;
  const step = STEPS_MIN.find((minutes) => (until - from) / 60_000 / minutes <= 9) ?? 240;
  const ticks: number[] = [];
  for (let at = Math.ceil(from / 60_000 / step) * step * 60_000; at <= until; at += step * 60_000) ticks.push(at);
  const next = nextSlot(day);
  const lines = (
    <>
      {ticks.map((at) => (
        <span key={at} className="absolute inset-y-0 border-l border-rule" style={{ left: x(at) }} />
      ))}
      <span className="absolute inset-y-0 border-l-2 border-ink" style={{ left: x(now) }} />
      <span className="absolute inset-y-0 border-l-[3px] border-copper" style={{ left: x(day.leave) }} />
    </>
  );
  return (
    <div className="mt-3 grid grid-cols-[minmax(170px,1.1fr)_130px_minmax(0,3.6fr)_270px] items-stretch text-[14px]">
      <span className="lab border-b border-ink pb-1">job and step</span>
      <span className="lab border-b border-ink pb-1">now</span>
      <span className="relative h-[22px] border-b border-ink">
        {ticks.map((at) => (
          <span key={at} className="lab absolute -translate-x-1/2" style={{ left: x(at) }}>
            {clock(at)}
          </span>
        ))}
      </span>
      <span className="border-b border-ink pb-1 pl-3 text-[14px] font-semibold text-copper">
        van leaves {clock(day.leave)}
      </span>
      {day.jobs.map((job) => (
        <Fragment key={job.code}>
          <Link to={`/job/${job.code}`} className="block border-b border-rule py-2 pr-3 hover:bg-tint">
            <b className="block text-[15px] leading-[19px]">{job.title}</b>
            <span className="text-soft">{stepsOf("service").find((s) => s.id === job.step)?.label}</span>
          </Link>
          <Now job={job} next={next} />
          <div className="relative border-b border-rule">
            {lines}
            {job.slots.map((slot) => (
              <Bar key={slot.start + slot.label} slot={slot} x={x} next={slot === next} wide={until - from} />
            ))}
          </div>
          <div className="flex items-center justify-between gap-2 border-b border-rule py-1 pl-3">
            <AtLeaving job={job} />
            <button
              type="button"
              className="chip shrink-0"
              onClick={() => onLeaveOut(job.code)}
              aria-label={`not today: ${job.title}`}
            >
              not today
            </button>
          </div>
        </Fragment>
      ))}
      {day.kit.length > 0 && <h2 className="col-span-4 border-b border-ink pt-4 pb-1">Shared kit</h2>}
      {day.kit.map((kit) => (
        <Fragment key={kit.name}>
          <span className="border-b border-rule py-2 font-semibold first-letter:uppercase">{kit.name}</span>
          <span className="border-b border-rule py-2 text-soft">
            {kit.busy_until ? `another has it to ${clock(kit.busy_until)}` : ""}
          </span>
          <div className="relative min-h-[42px] border-b border-rule">
            {lines}
            {kit.slots.map((slot) => (
              <Bar key={slot.start + slot.label} slot={slot} x={x} next={false} wide={until - from} />
            ))}
          </div>
          <span className="border-b border-rule py-2 pl-3 text-soft">
            {kit.slots.length ? `free from ${clock(kit.slots[kit.slots.length - 1]?.end ?? day.now)}` : ""}
          </span>
        </Fragment>
      ))}
    </div>
  );
}

/** The first thing hands are needed for. */
function nextSlot(day: DayState): SlotRow | undefined {
  return day.jobs
    .flatMap((job) => job.slots)
    .filter((slot) => slot.hands)
    .sort((a, b) => a.start.localeCompare(b.start))[0];
}

type BarProps = { slot: SlotRow; x: (moment: string) => string; next: boolean; wide: number };

/** A task on the clock; its name stands in it where there is room, and always in what is read out. */
function Bar({ slot, x, next, wide }: BarProps) {
  const minutes = Math.round((new Date(slot.end).getTime() - new Date(slot.start).getTime()) / 60_000);
  if (minutes < 1) return null;
  const room = ((minutes * 60_000) / wide) * USUAL_PX > slot.label.length * LETTER_PX + 8;
  const said = `${slot.label}, ${clock(slot.start)} to ${clock(slot.end)}${slot.hands ? "" : ", runs alone"}`;
  return (
    <span
      role="img"
      aria-label={said}
      title={said}
      className={`absolute top-1/2 flex h-[28px] -translate-y-1/2 items-center justify-center overflow-hidden border border-ink text-[13px] whitespace-nowrap ${
        next ? "bg-copper font-semibold text-[var(--on-copper)]" : slot.hands ? "bg-[var(--tint2)]" : "bg-sheet"
      }`}
      style={{ left: x(slot.start), width: `calc(${x(slot.end)} - ${x(slot.start)})`, ...(slot.hands ? {} : HATCH) }}
    >
      {room && <span className={slot.hands ? "px-1" : "bg-sheet px-1"}>{slot.label}</span>}
    </span>
  );
}

function Now({ job, next }: { job: DayJob; next: SlotRow | undefined }) {
  const doNow = job.slots.some((slot) => slot === next);
  return (
    <div className="border-b border-rule py-2 pr-2">
      {job.waits_until ? (
        <p className="text-[14px] text-soft">
          <span className="flex items-center gap-2 text-[15px] font-semibold text-wait">
            <Shape word="Wait" /> Wait <Countdown until={job.waits_until} />
          </span>
          {job.waits_for}
        </p>
      ) : doNow ? (
        <p className="text-[14px] text-soft">
          <span className="block text-[15px] font-semibold text-copper">Do next</span>
          {next && clock(next.start)}
        </p>
      ) : (
        <VerdictBadge word={job.word as Word} />
      )}
    </div>
  );
}

/** How it stands when the van leaves. */
function AtLeaving({ job }: { job: DayJob }) {
  if (job.proven) {
    return (
      <p className="flex items-baseline gap-2 font-semibold text-holds">
        <Shape word="Holds" /> Proven {clock(job.proven)}
      </p>
    );
  }
  const safe = job.left !== "" && job.left !== "not begun";
  return (
    <p>
      <span className={`flex items-baseline gap-2 font-semibold ${safe ? "text-wait" : "text-stop"}`}>
        <Shape word={safe ? "Wait" : "Stop"} /> {safe ? "Left safe" : "Not today"}
      </span>
      <span className="text-[13px] text-soft">{safe ? job.left : job.not_done.slice(0, 2).join(", ")}</span>
    </p>
  );
}

/** On a phone: the same plan as a list in order of time. */
function Listed({ day }: { day: DayState }) {
  const next = nextSlot(day);
  return (
    <ul className="mt-2">
      {day.jobs.map((job) => (
        <li key={job.code} className="border-t border-rule py-2">
          <Link to={`/job/${job.code}`} className="flex min-h-[44px] items-center text-[16px] font-semibold">
            {job.title}
          </Link>
          <Now job={job} next={next} />
          <ol className="my-1 text-[14px]">
            {job.slots
              .filter((slot) => slot.end > slot.start)
              .map((slot) => (
                <li key={slot.start + slot.label} className={slot === next ? "font-semibold text-copper" : "text-soft"}>
                  {clock(slot.start)} {slot.label}
                  {slot.hands ? "" : ", runs alone"}
                </li>
              ))}
          </ol>
          <AtLeaving job={job} />
        </li>
      ))}
    </ul>
  );
}
