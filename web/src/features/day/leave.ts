/** When the van leaves: a time of day this device remembers, as the next such moment; the shop's closing where none was chosen. */

import { useSyncExternalStore } from "react";
import type { DayAsk } from "../../api/queries.ts";
import { officeMs } from "../../device/time.ts";

const LEAVE = "yoshi:leave";
const MOVED = "yoshi:moved";
const WHOSE = "yoshi:whose-day";
const CHANGED = "yoshi:day";

const read = (key: string, otherwise: string) => {
  try {
    return localStorage.getItem(key) ?? otherwise;
  } catch {
    return otherwise;
  }
};

function keep(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // a device that keeps nothing still shows the day
  }
  window.dispatchEvent(new Event(CHANGED));
}

function useStored(key: string, otherwise: string): string {
  return useSyncExternalStore(
    (changed) => {
      window.addEventListener(CHANGED, changed);
      return () => window.removeEventListener(CHANGED, changed);
    },
    () => read(key, otherwise),
  );
}

/** The moment of a time of day: today's, or tomorrow's when that is more than an hour past. */
export function momentOf(time: string, now: number): string {
  const [hours = 17, minutes = 0] = time.split(":").map(Number);
  const moment = new Date(now);
  moment.setHours(hours, minutes, 0, 0);
  if (moment.getTime() < now - 3600_000) moment.setDate(moment.getDate() + 1);
  return moment.toISOString();
}

/** What was moved by hand today: jobs left out, the time before which a job is not begun, and whether work goes on outside the shop's hours. */
export type Moved = { out: string[]; later: Record<string, string>; outside?: boolean };

/** What is stored of it; that of another day is forgotten. */
export function moved(stored: string, now: number): Moved {
  try {
    const { day, out, later, outside } = JSON.parse(stored) as { day: string } & Moved;
    if (day === new Date(now).toDateString()) return { out, later, outside: outside === true };
  } catch {
    // nothing, or nothing that can be read
  }
  return { out: [], later: {}, outside: false };
}

export function useLeave(lead = false) {
  const time = useStored(LEAVE, "");
  const stored = useStored(MOVED, "");
  const whose = useStored(WHOSE, lead ? "all" : "mine") === "all" ? "all" : "mine";
  const now = officeMs();
  const { out, later, outside = false } = moved(stored, now);
  const move = (next: Moved) => keep(MOVED, JSON.stringify({ day: new Date(now).toDateString(), ...next }));
  const others = Object.fromEntries(Object.entries(later).filter(([, at]) => momentToday(at, now) > now));
  const ask: DayAsk = {
    ...(time && { leave: momentOf(time, now) }),
    offset: -new Date(now).getTimezoneOffset(),
    outside,
    skip: out.join(","),
    later: Object.entries(others)
      .map(([code, at]) => `${code}=${new Date(momentToday(at, now)).toISOString()}`)
      .join(","),
    whose,
  };
  return {
    time,
    ask,
    whose,
    later,
    setWhose: (next: string) => keep(WHOSE, next),
    setTime: (next: string) => keep(LEAVE, next),
    setOutside: (next: boolean) => move({ out, later, outside: next }),
    leaveOut: (code: string) => move({ out: [...out, code], later, outside }),
    takeIn: (code: string) => move({ out: out.filter((other) => other !== code), later, outside }),
    notBefore: (code: string, at: string) => {
      const { [code]: _, ...rest } = later;
      move({ out, later: at ? { ...rest, [code]: at } : rest, outside });
    },
  };
}

function momentToday(time: string, now: number): number {
  const [hours = 0, minutes = 0] = time.split(":").map(Number);
  return new Date(now).setHours(hours, minutes, 0, 0);
}
