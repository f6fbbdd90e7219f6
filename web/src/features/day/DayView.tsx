import { useQuery } from "@tanstack/react-query";
import { type CSSProperties, Fragment, type ReactNode } from "react";
import { Link } from "react-router";
import { stepLabel } from "../../api/fields.ts";
import { dayQuery } from "../../api/queries.ts";
import type { DayJob, DayState, SlotRow, Word } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { clock, lasting } from "../../format/quantity.ts";
import { Countdown } from "../../parts/Countdown.tsx";
import { Shape, VerdictBadge } from "../../parts/shapes.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { useNow } from "../../ui/useNow.ts";
import { useWide } from "../../ui/useWide.ts";
import { useLeave } from "./leave.ts";
import { type Hand, Move } from "./Move.tsx";

const HATCH: CSSProperties = {
  backgroundImage: "repeating-linear-gradient(135deg, var(--tint2) 0 2px, transparent 2px 7px)",
};
const STEPS_MIN = [15, 30, 60, 120, 240];
const USUAL_PX = 620;
const LETTER_PX = 7;

/** The day on the clock: what to do next, what runs alone, what is proven before the van leaves. */
export function DayView({ tabs }: { tabs?: ReactNode }) {
  const { me } = useSession();
  const { time, ask, whose, setTime, setWhose, takeIn, ...hand } = useLeave(me.role !== "technician");
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
              value={time}
              onChange={(event) => setTime(event.target.value)}
            />
          </label>
          <Toggle label="Whose jobs" value={whose} options={{ mine: "Mine", all: "Everybody's" }} onChange={setWhose} />
        </div>
        <Legend />
      </div>
      {error && (
        <p className="note mt-3">No answer from the server, so there is no plan now. Waits go on all the same.</p>
      )}
      {data && (
        <>
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
        <span className="h-4 w-7 border border-wait border-dashed" /> waits for kit or a hand
      </li>
      <li className="flex items-center gap-2">
        <span className="h-4 w-7 border border-ink bg-copper" /> do next
      </li>
    </ul>
  );
}

/** What the day comes to, in one line. */
function Summary({ day }: { day: DayState }) {
  const proven = day.jobs.filter((job) => job.state === "proven").length;
  const safe = day.jobs.filter((job) => job.state === "safe").length;
  const rest = day.jobs.length - proven - safe;
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
          <b>{lasting(day.saved_s)}</b> sooner than one after the other
        </span>
      )}
      {!day.exact && <span className="text-soft">more than six jobs: a good plan, not proven the best</span>}
    </p>
  );
}

/** From now to a little after the van leaves; to the last task where the van leaves long after it. */
function span(day: DayState): { from: number; until: number } {
  const from = new Date(day.now).getTime();
  const ends = day.jobs.flatMap((job) => job.slots.map((slot) => new Date(slot.end).getTime()));
  const leave = new Date(day.leave).getTime();
  const last = Math.max(...ends, from + 1800_000);
  if (leave - last > last - from) return { from, until: last + 0.15 * (last - from) };
  return { from, until: Math.max(Math.min(last, leave + 3600_000), leave) };
}

function Chart({ day, hand }: { day: DayState; hand: Hand }) {
  const { from, until } = span(day);
  const now = useNow(5000);
  const x = (moment: string | number) =>
    `${Math.min(100, Math.max(0, ((new Date(moment).getTime() - from) / (until - from)) * 100))}%`;
  const step = STEPS_MIN.find((minutes) => (until - from) / 60_000 / minutes <= 9) ?? 240;
  const ticks: number[] = [];
  for (let at = Math.ceil(from / 60_000 / step) * step * 60_000; at <= until; at += step * 60_000) ticks.push(at);
  const next = nextSlots(day);
  const lines = (
    <>
      {ticks.map((at) => (
        <span key={at} className="absolute inset-y-0 border-l border-rule" style={{ left: x(at) }} />
      ))}
      <span className="absolute inset-y-0 border-l-2 border-ink" style={{ left: x(now) }} />
      {new Date(day.leave).getTime() <= until && (
        <span className="absolute inset-y-0 border-l-[3px] border-copper" style={{ left: x(day.leave) }} />
      )}
    </>
  );
  return (
    <div className="mt-3 grid grid-cols-[minmax(200px,1.5fr)_130px_minmax(0,3.4fr)_290px] items-stretch text-[14px]">
      <span className="lab border-b border-ink pb-1">job and step</span>
      <span className="lab border-b border-ink pb-1">now, {clock(now)}</span>
      <span className="relative min-h-[22px] border-b border-ink">
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
            <span className="text-soft">
              {[stepLabel(job.step), day.people > 1 && job.technician].filter(Boolean).join(" · ")}
            </span>
          </Link>
          <Now job={job} next={next} />
          <div className="relative border-b border-rule">
            {lines}
            {job.slots.map((slot, n) => (
              <Bar
                key={slot.start + slot.label}
                slot={slot}
                x={x}
                next={next.has(slot)}
                wide={until - from}
                free={new Date(job.slots[n + 1]?.waits_from ?? job.slots[n + 1]?.start ?? until).getTime()}
              />
            ))}
          </div>
          <div className="flex items-center justify-between gap-2 border-b border-rule py-1 pl-3">
            <AtLeaving job={job} />
            <Move job={job} hand={hand} />
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
              <Bar
                key={slot.start + slot.label}
                slot={{ ...slot, waits_from: null, fills: "" }}
                x={x}
                next={false}
                wide={until - from}
                free={until}
              />
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

/** The first thing that each person's hands are needed for. */
function nextSlots(day: DayState): Set<SlotRow> {
  const first = new Map<string, SlotRow>();
  for (const job of day.jobs) {
    for (const slot of job.slots.filter((one) => one.hands)) {
      const there = first.get(job.technician);
      if (!there || slot.start < there.start) first.set(job.technician, slot);
    }
  }
  return new Set(first.values());
}

type BarProps = { slot: SlotRow; x: (moment: string) => string; next: boolean; wide: number; free: number };

/** A task on the clock, what it waits for before it, and whose wait it fills; a word stands in it where there is room. */
function Bar({ slot, x, next, wide, free }: BarProps) {
  const [start, end] = [new Date(slot.start).getTime(), new Date(slot.end).getTime()];
  const minutes = Math.round((end - start) / 60_000);
  if (minutes < 1) return null;
  const px = (from: number, until: number) => ((until - from) / wide) * USUAL_PX;
  const word = [slot.label, slot.short].find((name) => name && px(start, end) > name.length * LETTER_PX + 6);
  const fills = slot.fills ? `fills the wait of ${slot.fills}` : "";
  const said = [
    `${slot.label}, ${clock(slot.start)} to ${clock(slot.end)}`,
    !slot.hands && "runs alone",
    slot.waits_for && `waits for ${slot.waits_for} before`,
    fills,
  ].filter(Boolean);
  return (
    <>
      {slot.waits_from && (
        <Waiting
          from={slot.waits_from}
          until={slot.start}
          what={slot.waits_for}
          x={x}
          room={px(new Date(slot.waits_from).getTime(), start)}
        />
      )}
      <span
        role="img"
        aria-label={said.join(", ")}
        title={said.join(", ")}
        className={`absolute top-1/2 flex h-[28px] -translate-y-1/2 items-center justify-center overflow-hidden border border-ink text-[13px] whitespace-nowrap ${
          next ? "bg-copper font-semibold text-[var(--on-copper)]" : slot.hands ? "bg-[var(--tint2)]" : "bg-sheet"
        }`}
        style={{ left: x(slot.start), width: `calc(${x(slot.end)} - ${x(slot.start)})`, ...(slot.hands ? {} : HATCH) }}
      >
        {word && <span className={slot.hands ? "px-1" : "bg-sheet px-1"}>{word}</span>}
      </span>
      {fills && next && px(end, free) > (FILLS.length + 3) * LETTER_PX && (
        <span
          aria-hidden="true"
          className="absolute top-1/2 max-w-full -translate-y-1/2 truncate bg-sheet pl-2 text-[13px] font-semibold text-copper"
          style={{ left: x(slot.end), width: `calc(${x(new Date(free).toISOString())} - ${x(slot.end)})` }}
        >
          {px(end, free) > fills.length * LETTER_PX ? fills : FILLS}
        </span>
      )}
    </>
  );
}

type WaitingProps = { from: string; until: string; what: string; x: (moment: string) => string; room: number };

function Waiting({ from, until, what, x, room }: WaitingProps) {
  const said = `waits for ${what}`;
  return (
    <span
      role="img"
      aria-label={`${said}, ${clock(from)} to ${clock(until)}`}
      title={said}
      className="absolute top-1/2 flex h-[28px] -translate-y-1/2 items-center justify-center overflow-hidden border border-wait border-dashed text-[13px] whitespace-nowrap text-wait"
      style={{ left: x(from), width: `calc(${x(until)} - ${x(from)})` }}
    >
      {room > said.length * LETTER_PX + 6 ? said : room > 5 * LETTER_PX ? "waits" : ""}
    </span>
  );
}

const FILLS = "fills a wait";

function Now({ job, next }: { job: DayJob; next: Set<SlotRow> }) {
  const doNow = job.slots.find((slot) => next.has(slot));
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
          {`${doNow.label}, ${clock(doNow.start)}`}
        </p>
      ) : (
        <VerdictBadge word={job.word as Word} />
      )}
    </div>
  );
}

const ENDS: Record<DayJob["state"], { word: Word; said: string; tone: string }> = {
  proven: { word: "Holds", said: "Proven", tone: "text-holds" },
  safe: { word: "Wait", said: "Left safe", tone: "text-wait" },
  not_begun: { word: "Open", said: "Not today", tone: "text-soft" },
  unsafe: { word: "Stop", said: "Nowhere safe to stop", tone: "text-stop" },
};

/** How it stands when the van leaves, and what a return still takes. */
function AtLeaving({ job }: { job: DayJob }) {
  const ends = ENDS[job.state];
  return (
    <p>
      <span className={`flex items-baseline gap-2 font-semibold ${ends.tone}`}>
        <Shape word={ends.word} /> {ends.said} {job.proven && clock(job.proven)}
      </span>
      {job.state === "safe" && <span className="text-[13px] text-soft">{job.left}; </span>}
      {job.state === "unsafe" && <span className="text-[13px] text-soft">{job.not_done[0]} has to be done; </span>}
      {job.state !== "proven" && <span className="text-[13px] text-soft">{lasting(job.rest_s)} more to do</span>}
    </p>
  );
}

/** On a phone: the same plan as a list in order of time. */
function Listed({ day, hand }: { day: DayState; hand: Hand }) {
  const next = nextSlots(day);
  return (
    <ul className="mt-2">
      {day.jobs.map((job) => (
        <li key={job.code} className="border-t border-rule py-2">
          <div className="flex items-center justify-between gap-3">
            <Link to={`/job/${job.code}`} className="flex min-h-[44px] items-center text-[16px] font-semibold">
              {job.title}
            </Link>
            <Move job={job} hand={hand} />
          </div>
          <Now job={job} next={next} />
          <ol className="my-1 text-[14px]">
            {job.slots
              .filter((slot) => slot.end > slot.start)
              .map((slot) => (
                <li
                  key={slot.start + slot.label}
                  className={next.has(slot) ? "font-semibold text-copper" : "text-soft"}
                >
                  {clock(slot.start)} {slot.label}
                  {slot.hands ? "" : ", runs alone"}
                  {slot.waits_for && `, once ${slot.waits_for} is free`}
                </li>
              ))}
          </ol>
          <AtLeaving job={job} />
        </li>
      ))}
    </ul>
  );
}
