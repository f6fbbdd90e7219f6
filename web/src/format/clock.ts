/** Times of day as this person reads them, by 24 or by 12 hours, and as they are typed. */

export type Clock = "24" | "12";
let mode: Clock = "24";
const DAY_MS = 86_400_000;
const AHEAD_MS = 3_600_000;
const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

/** Which clock the person who is signed in reads; a device that kept them from before there was a choice says none. */
export function readBy(next: Clock | undefined): void {
  mode = next === "12" ? "12" : "24";
}

/** A clock time; with seconds where they matter. */
export function clock(moment: string | number | Date, seconds = false): string {
  const format: Intl.DateTimeFormatOptions = {
    hour: "2-digit",
    minute: "2-digit",
    ...(seconds && { second: "2-digit" }),
  };
  if (mode === "24") return new Date(moment).toLocaleTimeString("en-GB", format);
  return new Date(moment).toLocaleTimeString("en-US", { ...format, hour: "numeric" }).toLowerCase();
}

/** A time of day as 17:00, from how people write it: 17:00, 1700, 17, 5 pm, 5:00 p.m. Null where it is none. */
export function timeFrom(text: string): string | null {
  const found = /^(\d{1,2})(?:[:.h ]?(\d{2}))?(?::(\d{2}))?\s*(?:([ap])\.?m?\.?)?$/i.exec(text.trim());
  if (!found) return null;
  const [, hour = "", minute = "00", second = "00", half] = found;
  const named = Number(hour);
  if (half && (named < 1 || named > 12)) return null;
  const hours = half ? (named % 12) + (half.toLowerCase() === "p" ? 12 : 0) : named;
  if (hours > 23 || Number(minute) > 59 || Number(second) > 59) return null;
  return [String(hours).padStart(2, "0"), minute, second].join(":");
}

/** A moment as people write it: a time today, or with its day before it (yesterday, 18 Jun, 2026-06-18). A time without a day lies behind. */
export function momentFrom(text: string, now: Date): Date | null {
  const found = /^(?:(.+?)[,T\s]+)?(\d{1,2}(?:[:.h]?\d{2})?(?::\d{2})?\s*(?:[ap]\.?m?\.?)?)$/i.exec(text.trim());
  const time = found && timeFrom(found[2] ?? "");
  if (!found || !time) return null;
  const day = dayFrom(found[1] ?? "", now);
  if (!day) return null;
  const [hours = 0, minutes = 0, seconds = 0] = time.split(":").map(Number);
  day.setHours(hours, minutes, seconds, 0);
  if (!found[1] && day.getTime() > now.getTime() + AHEAD_MS) day.setDate(day.getDate() - 1);
  return day;
}

function dayFrom(text: string, now: Date): Date | null {
  const said = text.trim().toLowerCase();
  if (!said || said === "today") return new Date(now);
  if (said === "yesterday") return new Date(now.getTime() - DAY_MS);
  const iso = /^(\d{4})-(\d{2})-(\d{2})$/.exec(said);
  if (iso) return real(Number(iso[1]), Number(iso[2]) - 1, Number(iso[3]));
  const [, before, month = "", after, year] =
    /^(?:(\d{1,2})\.?\s+)?([a-z]{3})[a-z]*\.?(?:\s+(\d{1,2}))?(?:,?\s+(\d{4}))?$/.exec(said) ?? [];
  const at = MONTHS.indexOf(month);
  if (at < 0 || !(before || after)) return null;
  const named = real(Number(year ?? now.getFullYear()), at, Number(before ?? after));
  if (named && !year && named.getTime() > now.getTime() + DAY_MS) named.setFullYear(named.getFullYear() - 1);
  return named;
}

function real(year: number, month: number, day: number): Date | null {
  const made = new Date(year, month, day);
  return made.getMonth() === month && made.getDate() === day ? made : null;
}

/** A moment as it stands in a field: its time, with seconds where it has some, and its day where that is not today. */
export function written(moment: string, now: Date): string {
  const then = new Date(moment);
  const time = clock(then, then.getSeconds() > 0);
  if (then.toDateString() === now.toDateString()) return time;
  const day = then.toLocaleDateString("en-GB", {
    day: "numeric",
    month: "short",
    ...(then.getFullYear() !== now.getFullYear() && { year: "numeric" }),
  });
  return `${day} ${time}`;
}
