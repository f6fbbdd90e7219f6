import { scaleTime } from "d3-scale";
import { Fragment } from "react";
import { Link } from "react-router";
import { stepLabel } from "../../api/fields.ts";
import type { DayState } from "../../api/types.ts";
import { useNow } from "../../device/useNow.ts";
import { clock } from "../../format/quantity.ts";
import { Bar } from "./Bars.tsx";
import { AtLeaving, Carried, Now } from "./Listed.tsx";
import { type Hand, Move } from "./Move.tsx";
import { nextSlots, span } from "./slots.ts";

export function Chart({ day, hand }: { day: DayState; hand: Hand }) {
  const { from, until } = span(day);
  const now = useNow(5000);
  const across = scaleTime([from, until], [0, 100]).clamp(true);
  const x = (moment: string | number) => `${across(new Date(moment))}%`;
  const ticks = across.ticks(8).map((tick) => tick.getTime());
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
            <Carried job={job} />
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
