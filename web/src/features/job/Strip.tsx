import { useRef, useState } from "react";
import { Link } from "react-router";
import { type StepName, stepFacts } from "../../api/fields.ts";
import type { Entry, System } from "../../api/types.ts";
import { fastBy, practising } from "../../device/practising.ts";
import { nowMs } from "../../device/time.ts";
import { useNow } from "../../device/useNow.ts";
import { ago, show } from "../../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows } from "../../job/context.ts";
import type { Live } from "../../job/live.ts";
import { Scrollable } from "../../ui/Scrollable.tsx";
import { useWide } from "../../ui/useWide.ts";
import { CHANNELS } from "../instruments/channels.ts";
import { captures } from "./captures.ts";

const READINGS: [string, string, string][] = [
  ["suction_pressure", "gauge_pressure", "suction"],
  ["liquid_pressure", "gauge_pressure", "liquid"],
  ["suction_line", "temperature", "suction line"],
  ["liquid_line", "temperature", "liquid line"],
  ["outdoor", "temperature", "outdoor"],
];
const HELD_MS = 450;
const STALE_S = 10;
const LOW_BATTERY = 0.2;

/** What the instruments say, newest first for this step; without them, what was typed, with its age. */
export function Strip({ step }: { step: StepName }) {
  const { answer, live } = useJob();
  const wide = useWide();
  const typed = useTyped(step);
  const wanted = stepFacts(step).channels;
  const channels = [...wanted, ...Object.keys(live).filter((name) => !wanted.includes(name))].filter(
    (name) => live[name],
  );
  const open = Object.keys(live).length > 0;
  if (!wide && !open && typed.every((cell) => !cell.entry)) return null;
  return (
    <Scrollable label="Instruments" data-step={step} className="flex min-h-[60px] items-stretch border-t border-rule">
      {channels.map((name) => {
        const reading = live[name];
        return reading ? <LiveCell key={name} reading={reading} /> : null;
      })}
      {!open && typed.filter((cell) => wide || cell.entry).map((cell) => <TypedCell key={cell.label} {...cell} />)}
      <span className="flex-1" />
      {open ? (
        <HoldToCapture key={step} step={step} />
      ) : practising() ? null : (
        <Link
          to={`/instruments?job=${answer.code}`}
          className="btn quiet sticky right-0 m-1 shrink-0 bg-paper max-md:hidden"
        >
          Instruments
        </Link>
      )}
    </Scrollable>
  );
}

function useTyped(step: StepName) {
  const { answer, system } = useJob();
  const draws = useRows("weigh_in", "draws", ["d1"]);
  const taken = useRows("recover", "cylinders", ["c1"]);
  const readings = useRows("verify", "readings", ["r1"]);
  const draw = draws[draws.length - 1] ?? "d1";
  const reading = readings[readings.length - 1] ?? "r1";
  const first = stepFacts(step).early;
  const scaleAt = (keys: string[]) =>
    at(answer.job, pathOf(answer.job, first ? "recover" : "weigh_in", keys)) as Entry | null;
  const stepped = (row: string, field: string) =>
    at(answer.job, pathOf(answer.job, "verify", ["readings", row, field])) as Entry | null;
  const lastWeighed = () =>
    [...readings]
      .reverse()
      .map((row) => stepped(row, "gross_after") ?? stepped(row, "gross_before"))
      .find(Boolean) ?? null;
  const filling = taken[taken.length - 1] ?? "c1";
  const scale = first
    ? (scaleAt(["cylinders", filling, "gross_now"]) ?? scaleAt(["cylinders", filling, "gross_start"]))
    : ((step === "verify" ? lastWeighed() : null) ??
      scaleAt(["draws", draw, "gross_end"]) ??
      scaleAt(["draws", draw, "gross_start"]));
  const read = (field: string) =>
    at(
      answer.job,
      first ? pathOf(answer.job, "as_found", [field]) : pathOf(answer.job, "verify", ["readings", reading, field]),
    ) as Entry | null;
  return [
    { label: "scale", entry: scale, quantity: "mass", system },
    ...READINGS.map(([field, quantity, label]) => ({ label, quantity, entry: read(field), system })),
  ];
}

type Cell = { label: string; entry: Entry | null; quantity: string; system: System };

function TypedCell({ label, entry, quantity, system }: Cell) {
  return (
    <div className="border-r border-rule px-5 py-2 whitespace-nowrap">
      <p className="text-[14px] text-soft">{label}</p>
      <p className="text-[16px] leading-[22px] font-semibold">
        {entry ? show(entry.value, quantity, system) : "—"}{" "}
        {entry && (
          <span className="text-[14px] font-normal text-soft">typed{entry.at ? ` ${ago(entry.at, nowMs())}` : ""}</span>
        )}
      </p>
    </div>
  );
}

/** How old a reading is, short. */
export function age(reading: Live, now: number): string {
  const seconds = Math.max(0, Math.round((now - new Date(reading.at).getTime()) / 1000));
  if (seconds <= 3 * fastBy()) return "now";
  return seconds < 60 ? `${seconds} s ago` : ago(reading.at, now);
}

function LiveCell({ reading }: { reading: Live }) {
  const { system } = useJob();
  const now = useNow();
  const facts = CHANNELS[reading.channel];
  const stale = now - new Date(reading.at).getTime() > STALE_S * 1000 * fastBy();
  const low = reading.battery != null && reading.battery < LOW_BATTERY;
  return (
    <div
      className={`border-r border-rule px-5 py-2 whitespace-nowrap ${stale ? "bg-[var(--waittint)]" : ""}`}
      data-live={reading.channel}
      title={reading.instrument}
    >
      <p className="text-[14px] text-soft">
        {facts?.label ?? reading.channel}
        {reading.steady !== "new" && `, ${reading.steady}`}
        {low && <b className="text-wait">, battery {show(reading.battery ?? 0, "fraction", system)}</b>}
      </p>
      <p className="text-[16px] leading-[22px] font-semibold">
        {show(reading.value, facts?.quantity ?? "number", system)}{" "}
        <span className={`text-[14px] font-normal ${stale ? "text-wait" : "text-soft"}`}>{age(reading, now)}</span>
      </p>
    </div>
  );
}

/** Held down for half a second, or Enter: what the instruments say goes into the step. */
function HoldToCapture({ step }: { step: StepName }) {
  const { answer, live, system, type } = useJob();
  const closed = useIsClosed(step);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const [said, setSaid] = useState("");
  const sheet = (at(answer.job, pathOf(answer.job, step, [])) as Record<string, unknown>) ?? {};
  const found = captures(step, sheet, live, system);
  if (closed || !found.length) return null;
  const capture = () => {
    for (const { keys, value } of found) type(pathOf(answer.job, step, keys), value, { ready: true });
    setSaid(`Captured ${found.filter((c) => typeof c.value === "object").length}`);
    setTimeout(() => setSaid(""), 2500);
  };
  const begin = () => {
    setSaid("Hold …");
    timer.current = setTimeout(() => {
      timer.current = null;
      capture();
    }, HELD_MS);
  };
  const end = () => {
    if (!timer.current) return;
    clearTimeout(timer.current);
    timer.current = null;
    setSaid("");
  };
  return (
    <button
      type="button"
      className="btn quiet sticky right-0 m-1 shrink-0 bg-paper select-none"
      onPointerDown={begin}
      onPointerUp={end}
      onPointerLeave={end}
      onContextMenu={(event) => event.preventDefault()}
      onKeyDown={(event) => {
        if (event.key === "Enter" && !event.repeat) capture();
      }}
    >
      <span aria-live="polite">{said || "Hold to capture"}</span>
    </button>
  );
}
