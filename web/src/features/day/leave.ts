/** When the van leaves: a time of day this device remembers, as the next such moment. */
import { useSyncExternalStore } from "react";

const KEY = "yoshi:leave";
const SKIP = "yoshi:not-today";
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

/** Jobs left out of today; those of another day are forgotten. */
export function skipped(stored: string, now: number): string[] {
  const [day, codes = ""] = stored.split("|");
  return day === new Date(now).toDateString() ? codes.split(",").filter(Boolean) : [];
}

export function useLeave() {
  const time = useStored(KEY, "17:00");
  const stored = useStored(SKIP, "");
  const now = Date.now();
  const out = skipped(stored, now);
  const setOut = (codes: string[]) => keep(SKIP, `${new Date(now).toDateString()}|${codes.join(",")}`);
  return {
    time,
    leave: momentOf(time, now),
    setTime: (next: string) => next && keep(KEY, next),
    out,
    leaveOut: (code: string) => setOut([...out, code]),
    takeIn: (code: string) => setOut(out.filter((other) => other !== code)),
  };
}
