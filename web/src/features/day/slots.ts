import type { DayState, SlotRow } from "../../api/types.ts";

/** From now, or from the opening where nothing runs before, to a little after the van leaves; to the last task where the van leaves long after it. */
export function span(day: DayState): { from: number; until: number } {
  const starts = day.jobs.flatMap((job) => job.slots.map((slot) => new Date(slot.start).getTime()));
  const from = Math.min(new Date(day.begins).getTime(), ...starts);
  const ends = day.jobs.flatMap((job) => job.slots.map((slot) => new Date(slot.end).getTime()));
  const leave = new Date(day.leave).getTime();
  const last = Math.max(...ends, from + 1800_000);
  if (leave - last > last - from) return { from, until: last + 0.15 * (last - from) };
  return { from, until: Math.max(Math.min(last, leave + 3600_000), leave) };
}

/** The first thing that each person's hands are needed for. */
export function nextSlots(day: DayState): Set<SlotRow> {
  const first = new Map<string, SlotRow>();
  for (const job of day.jobs) {
    for (const slot of job.slots.filter((one) => one.hands)) {
      const there = first.get(job.technician);
      if (!there || slot.start < there.start) first.set(job.technician, slot);
    }
  }
  return new Set(first.values());
}
