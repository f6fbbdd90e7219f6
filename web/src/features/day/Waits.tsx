import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { dayQuery } from "../../api/queries.ts";
import type { DayJob } from "../../api/types.ts";
import { officeMs } from "../../device/time.ts";
import { alarmIsOn, arm, hasSound, silence, turnAlarm } from "./alarm.ts";
import { useLeave } from "./leave.ts";

const KEY = "yoshi:told";
const LATE_MS = 10 * 60_000;
export type Told = { id: string; code: string; title: string; what: string };

/** Waits that ran out a moment ago and were not told yet. */
export function runOut(
  jobs: Pick<DayJob, "code" | "title" | "waits_until" | "waits_for">[],
  told: string[],
  now: number,
): Told[] {
  return jobs.flatMap((job) => {
    if (!job.waits_until) return [];
    const until = new Date(job.waits_until).getTime();
    const id = `${job.code} ${job.waits_until}`;
    if (until > now || now - until > LATE_MS || told.includes(id)) return [];
    return [{ id, code: job.code, title: job.title, what: job.waits_for }];
  });
}

function readTold(): string[] {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "[]") as string[];
  } catch {
    return [];
  }
}

/** Watches every wait of today; when one runs out it says so, here and, where it is allowed, as a notification. */
export function Waits() {
  const { ask } = useLeave();
  const { data } = useQuery(dayQuery({ ...ask, whose: "mine" }));
  const [waits, setWaits] = useState<DayJob[]>([]);
  const [shown, setShown] = useState<Told[]>([]);
  useEffect(() => {
    const waiting = data?.jobs.filter((job) => job.waits_until) ?? [];
    setWaits((before) => {
      const kept = before.filter((old) => !waiting.some((job) => job.code === old.code));
      return [...kept, ...waiting];
    });
  }, [data]);
  useEffect(() => {
    const timer = setInterval(() => {
      const told = readTold();
      const news = runOut(waits, told, officeMs());
      if (!news.length) return;
      try {
        localStorage.setItem(KEY, JSON.stringify([...told, ...news.map((item) => item.id)].slice(-60)));
      } catch {
        // told again after a reload, then
      }
      setShown((before) => [...before, ...news]);
      for (const item of news) notify(item);
    }, 1000);
    return () => clearInterval(timer);
  }, [waits]);
  const on = useAlarm();
  useEffect(() => {
    const ends = waits.map((job) => ({ id: job.code, at: new Date(job.waits_until ?? 0).getTime() }));
    arm(on ? ends : []);
  }, [waits, on]);
  if (!shown.length) return null;
  return (
    <div className="fixed inset-x-3 bottom-20 z-40 mx-auto grid max-w-[520px] gap-2" role="status">
      {shown.map((item) => (
        <p
          key={item.id}
          className="flex items-center justify-between gap-3 border border-ink bg-sheet px-4 py-2 text-[15px]"
        >
          <span>
            <b>{item.title}</b>: the wait is over, {item.what}.
          </span>
          <Link
            to={`/job/${item.code}`}
            className="btn quiet shrink-0"
            onClick={() => {
              silence();
              setShown((before) => before.filter((other) => other.id !== item.id));
            }}
          >
            Look
          </Link>
        </p>
      ))}
    </div>
  );
}

function notify(item: Told): void {
  if (typeof Notification === "undefined" || Notification.permission !== "granted") return;
  new Notification(item.title, { body: `The wait is over: ${item.what}.`, tag: item.id });
}

/** Asks once whether this device may say when a wait is over. */
export function AlertMe() {
  const [state, setState] = useState(typeof Notification === "undefined" ? "denied" : Notification.permission);
  if (state !== "default") return null;
  return (
    <button
      type="button"
      className="btn"
      onClick={() => void Notification.requestPermission().then((answer) => setState(answer))}
    >
      Alert me when a wait is over
    </button>
  );
}

const CHANGED = "yoshi:alarm"; // an event of the page: switch and waits stand apart

function useAlarm(): boolean {
  const [on, setOn] = useState(alarmIsOn);
  useEffect(() => {
    const look = () => setOn(alarmIsOn());
    window.addEventListener(CHANGED, look);
    return () => window.removeEventListener(CHANGED, look);
  }, []);
  return on;
}

/** The alarm's switch, and what it cannot promise. */
export function Alarm() {
  const on = useAlarm();
  if (!hasSound()) return null;
  return (
    <label className="flex min-h-[44px] max-w-[560px] cursor-pointer items-start gap-3 py-2">
      <input
        type="checkbox"
        className="mt-1 accent-[var(--copper)]"
        checked={on}
        onChange={(event) => {
          turnAlarm(event.target.checked);
          window.dispatchEvent(new Event(CHANGED));
        }}
      />
      <span>
        <b className="font-semibold">Sound an alarm when a wait is over</b>
        <span className="block text-[14px] text-soft">
          It sounds as long as Yoshi is open, also behind another page. With the screen off a browser may stop it: while
          a scale or a hold is on show the screen stays on.
        </span>
      </span>
    </label>
  );
}
