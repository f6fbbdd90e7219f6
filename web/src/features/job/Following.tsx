import { useEffect, useRef, useState } from "react";
import type { StepName } from "../../api/fields.ts";
import { nowMs } from "../../device/time.ts";
import { useNow } from "../../device/useNow.ts";
import { nextKey } from "../../fields/Readings.tsx";
import { fill } from "../../format/message.ts";
import { lasting, show } from "../../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../job/context.ts";
import type { Following } from "../../job/live.ts";
import { Weight } from "../../parts/Weight.tsx";
import { measured } from "./captures.ts";
import { sound } from "./sound.ts";

/** Where a step keeps what the scale reads: the record of its rows, the fields before and after, what goes on in a new row, and when it was done. */
export type Place = {
  step: StepName;
  record: string;
  first: string;
  before: string;
  after: string;
  alike: string[];
  shutAt?: string;
  change?: boolean;
};
export const AT_WEIGH_IN: Place = {
  step: "weigh_in",
  record: "draws",
  first: "d",
  before: "gross_start",
  after: "gross_end",
  alike: ["cylinder", "tare", "water_capacity", "contents"],
  change: true,
};
export const AT_VERIFY: Place = {
  step: "verify",
  record: "readings",
  first: "r",
  before: "gross_before",
  after: "gross_after",
  alike: ["cylinder"],
  shutAt: "changed_at",
};
const LOUD = new Set<Following["state"]>(["near", "close_now", "past"]);
const BROKEN = new Set<Following["state"]>(["jumped", "gone"]);
const TONES: Partial<Record<Following["state"], string>> = {
  close_now: "text-stop",
  past: "text-stop",
  jumped: "text-stop",
  gone: "text-stop",
  stalled: "text-wait",
  still: "text-wait",
};
const STALE_MS = 10_000;

/** The live scale: the next mark, what is in, how fast, how long; and what a hand does at the valve. */
export function FollowScale({ following, silent, place }: { following: Following; silent: boolean; place: Place }) {
  const { system } = useJob();
  const loud = useCue(following.state);
  return (
    <div data-following={following.state}>
      <p className={`text-[16px] font-semibold ${TONES[following.state] ?? "text-copper"}`} aria-live="polite">
        {fill(following.text, system)}
      </p>
      {silent && <p className="note mt-1">The scale has not posted for some seconds. Count from its own display.</p>}
      <Weight kg={following.mark_kg} system={system} label="next mark on the scale" />
      <dl className="mt-3 grid grid-cols-3 divide-x divide-rule border-y border-rule text-[14px]">
        <Cell label="in the system" value={show(following.inside_kg, "mass", system)} />
        <Cell label="to this mark" value={show(following.to_mark_kg, "mass", system)} />
        <Cell
          label={
            following.flow_kg_s ? `at ${show(following.flow_kg_s * 60, "mass", system)} a minute` : "nothing flows"
          }
          value={following.seconds === null ? "—" : seconds(following.seconds)}
        />
      </dl>
      {following.warning && <p className="note stop mt-2">{fill(following.warning, system)}</p>}
      <AtTheValve following={following} loud={loud} place={place} />
      {loud.on && LOUD.has(following.state) && <Cue key={following.state} following={following} />}
    </div>
  );
}

const seconds = (value: number) => (value < 90 ? `${Math.round(value)} s` : lasting(value));

function Cell({ label, value }: { label: string; value: string }) {
  return (
    <div className="px-3 py-2 first:pl-0">
      <dt className="lab">{label}</dt>
      <dd className="num text-[24px] leading-[30px] max-md:text-[19px]">{value}</dd>
    </div>
  );
}

/** Sound and the full-screen cue, on until this person turns them off; a sound once a state. */
function useCue(state: Following["state"]) {
  const [on, setOn] = useState(() => localStorage.getItem("yoshi:cue") !== "off");
  const last = useRef(state);
  useEffect(() => {
    if (last.current === state) return;
    last.current = state;
    if (on) sound(state);
  }, [state, on]);
  const turn = (next: boolean) => {
    localStorage.setItem("yoshi:cue", next ? "on" : "off");
    if (next) sound("near");
    setOn(next);
  };
  return { on, turn };
}

/** Before a mark the whole screen says so; a tap puts it away. */
function Cue({ following }: { following: Following }) {
  const { system } = useJob();
  const [seen, setSeen] = useState(false);
  if (seen) return null;
  return (
    <button
      type="button"
      className="fixed inset-0 z-40 flex flex-col items-center justify-center gap-4 bg-sheet p-6 text-center"
      onClick={() => setSeen(true)}
      data-testid="cue"
    >
      <span className={`text-[32px] leading-[38px] font-semibold ${TONES[following.state] ?? "text-copper"}`}>
        {fill(following.text, system)}
      </span>
      <span className="num text-[84px] leading-[90px] max-md:text-[60px]">
        {show(following.gross_kg, "mass", system)}
      </span>
      <span className="text-[18px] text-soft">
        mark {show(following.mark_kg, "mass", system)}, {show(following.to_mark_kg, "mass", system)} to go. Tap to go
        back.
      </span>
    </button>
  );
}

type Loud = ReturnType<typeof useCue>;

function AtTheValve({ following, loud, place }: { following: Following; loud: Loud; place: Place }) {
  const { answer, live, system, type } = useJob();
  const closed = useIsClosed(place.step);
  const rows = useRows(place.step, place.record, [`${place.first}1`]);
  const scale = live.scale;
  if (closed || !scale) return null;
  const path = (row: string, field: string) => pathOf(answer.job, place.step, [place.record, row, field]);
  const put = (row: string, field: string, value: unknown) =>
    type(path(row, field), value, { ready: true, force: true });
  const reading = () => measured(scale, "mass", system);
  const begin = (fields: Record<string, unknown>) =>
    type(pathOf(answer.job, place.step, [place.record, nextKey(rows, place.first)]), fields, { ready: true });
  const done = () => place.shutAt && put(following.draw, place.shutAt, new Date(nowMs()).toISOString());
  const shut = () => {
    put(following.draw, place.after, reading());
    done();
  };
  const change = () => {
    shut();
    if (rows[rows.length - 1] === following.draw) begin({});
  };
  const goOn = () => {
    const good = `${(following.last_good_kg ?? following.gross_kg).toFixed(4)} kg`;
    put(following.draw, place.after, { text: good, unit: "kg", source: "weighed" });
    done();
    const before =
      (at(answer.job, pathOf(answer.job, place.step, [place.record, following.draw])) as Record<string, unknown>) ?? {};
    const same = Object.fromEntries(place.alike.filter((f) => before[f] != null).map((f) => [f, before[f]]));
    begin({ ...same, [place.before]: reading() });
  };
  return (
    <p className="mt-3 flex flex-wrap gap-3">
      {following.state === "mount" ? (
        <button type="button" className="btn" onClick={() => put(following.draw, place.before, reading())}>
          This is it: start from this reading
        </button>
      ) : BROKEN.has(following.state) ? (
        <button type="button" className="btn go" onClick={goOn}>
          Go on from this reading
        </button>
      ) : (
        <>
          <button type="button" className="btn go" onClick={shut}>
            Valve is shut
          </button>
          {place.change && (
            <button type="button" className="btn" onClick={change}>
              Change cylinder
            </button>
          )}
        </>
      )}
      <button type="button" className="btn quiet" aria-pressed={loud.on} onClick={() => loud.turn(!loud.on)}>
        {loud.on ? "Sound and cue are on" : "Sound and cue are off"}
      </button>
    </p>
  );
}

/** The live scale of a step where one posts for the row at hand; null where its marks stand still. */
export function useFollowing(step: "weigh_in" | "verify"): { following: Following; silent: boolean } | null {
  const { following, live } = useJob();
  const { picture } = useStep(step);
  const now = useNow(2000);
  if (!following || !live.scale || !picture.scale || picture.scale.draw !== following.draw) return null;
  return { following, silent: isSilent(live.scale.received, now) };
}

/** Whether the scale of this step is silent: no reading for some seconds. */
export function isSilent(receivedAt: string, now: number): boolean {
  return now - new Date(receivedAt).getTime() > STALE_MS;
}
