import { Link } from "react-router";
import { stepLabel } from "../../api/fields.ts";
import type { DayJob, DayState, SlotRow } from "../../api/types.ts";
import { clock } from "../../format/quantity.ts";
import { AtLeaving, Carried, Now } from "./Listed.tsx";
import { type Hand, Move } from "./Move.tsx";
import { nextSlots } from "./slots.ts";

const MOST = 6;
const NONE = new Set<SlotRow>();

/** On a desk: a row a job, its times in one line; then what kit is taken. */
export function Rows({ day, hand }: { day: DayState; hand: Hand }) {
  const next = nextSlots(day);
  return (
    <>
      <ul className="mt-2">
        {day.jobs.map((job) => (
          <li
            key={job.code}
            className="grid grid-cols-[minmax(200px,1.1fr)_minmax(0,2.2fr)_300px] items-center gap-x-5 border-t border-rule py-1"
          >
            <Link to={`/job/${job.code}`} className="block py-2 hover:bg-tint">
              <b className="block text-[16px] leading-[20px]">{job.title}</b>
              <span className="text-[14px] text-soft">
                {[stepLabel(job.step), day.people > 1 && job.technician].filter(Boolean).join(" · ")}
              </span>
              <Carried job={job} />
            </Link>
            <div>
              {(job.waits_until || job.word === "Stop") && <Now job={job} next={NONE} bare />}
              <Times job={job} next={next} />
            </div>
            <div className="flex items-center justify-between gap-2">
              <AtLeaving job={job} />
              <Move job={job} hand={hand} />
            </div>
          </li>
        ))}
      </ul>
      {day.kit.length > 0 && (
        <p className="mt-3 border-t border-rule pt-2 text-[15px]" data-testid="kit">
          <b>Shared kit:</b>{" "}
          {day.kit.map((kit) => (
            <span key={kit.name} className="mr-5 inline-block first-letter:uppercase">
              {kit.name} <span className="text-soft">{taken(kit)}</span>
            </span>
          ))}
        </p>
      )}
    </>
  );
}

function taken(kit: DayState["kit"][number]): string {
  const last = kit.slots[kit.slots.length - 1];
  const own = last && `${last.label} to ${clock(last.end)}`;
  return [kit.busy_until && `another has it to ${clock(kit.busy_until)}`, own].filter(Boolean).join(", then ");
}

function Times({ job, next }: { job: DayJob; next: Set<SlotRow> }) {
  const slots = job.slots.filter((slot) => slot.end > slot.start);
  return (
    <p className="flex flex-wrap gap-x-4 text-[15px]">
      {slots.slice(0, MOST).map((slot) => (
        <span key={slot.start + slot.label} className={next.has(slot) ? "font-semibold text-copper" : ""}>
          <b>{clock(slot.start)}</b> {slot.short || slot.label}
          {!slot.hands && <span className="text-soft">, runs alone</span>}
          {slot.waits_for && <span className="text-soft">, once {slot.waits_for} is free</span>}
        </span>
      ))}
      {slots.length > MOST && <span className="text-soft">and {slots.length - MOST} more</span>}
    </p>
  );
}
