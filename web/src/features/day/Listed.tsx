import { Link } from "react-router";
import type { DayJob, DayState, SlotRow, Word } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { clock, lasting } from "../../format/quantity.ts";
import { Countdown } from "../../parts/Countdown.tsx";
import { Shape, VerdictBadge } from "../../parts/shapes.tsx";
import { type Hand, Move } from "./Move.tsx";
import { nextSlots } from "./slots.ts";

export function Now({ job, next, bare }: { job: DayJob; next: Set<SlotRow>; bare?: boolean }) {
  const doNow = job.slots.find((slot) => next.has(slot));
  return (
    <div className={bare ? "py-2 pr-2" : "border-b border-rule py-2 pr-2"}>
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
        <VerdictBadge word={job.word as Word} step={job.step} />
      )}
    </div>
  );
}

/** What somebody answers for, or what points away from it: it goes with the job wherever that is listed. */
export function Carried({ job }: { job: DayJob }) {
  const { system } = useSession();
  return job.carried && <span className="mt-1 block text-[14px] leading-[17px]">{fill(job.carried, system)}</span>;
}

const ENDS: Record<DayJob["state"], { word: Word; said: string; tone: string }> = {
  proven: { word: "Holds", said: "Proven", tone: "text-holds" },
  safe: { word: "Wait", said: "Left safe", tone: "text-wait" },
  not_begun: { word: "Open", said: "Not today", tone: "text-soft" },
  unsafe: { word: "Stop", said: "Nowhere safe to stop", tone: "text-stop" },
};

/** How it stands when the van leaves, and what a return still takes. */
export function AtLeaving({ job }: { job: DayJob }) {
  const ends = ENDS[job.state];
  return (
    <p>
      <span className={`flex items-baseline gap-2 font-semibold ${ends.tone}`}>
        <Shape word={ends.word} /> {ends.said} {job.proven && clock(job.proven)}
      </span>
      {job.state === "safe" && <span className="text-[14px] text-soft">{job.left}; </span>}
      {job.state === "unsafe" && <span className="text-[14px] text-soft">{job.not_done[0]} has to be done; </span>}
      {job.state !== "proven" && <span className="text-[14px] text-soft">{lasting(job.rest_s)} more to do</span>}
    </p>
  );
}

/** On a phone: the same plan as a list in order of time. */
export function Listed({ day, hand }: { day: DayState; hand: Hand }) {
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
          <Carried job={job} />
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
