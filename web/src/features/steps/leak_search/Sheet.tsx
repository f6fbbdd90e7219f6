import { useState } from "react";
import { factsOf } from "../../../api/fields.ts";
import type { PlaceRow } from "../../../api/types.ts";
import { fill, showAmount } from "../../../format/quantity.ts";
import { ChoiceField, EntryField, TextField, YesNoField } from "../../../parts/fields.tsx";
import { Shape } from "../../../parts/shapes.tsx";
import { useWide } from "../../../ui/useWide.ts";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../job/context.ts";
import { StepFrame } from "../../job/StepFrame.tsx";
import { LeakMap } from "./LeakMap.tsx";

const STEP = "leak_search" as const;
const METHODS = ["eyes", "electronic", "bubbles", "ultrasonic", "tracer", "isolation"];
const NAMES: Record<string, string> = {
  "eyes, for oil": "eyes",
  electronic: "electronic",
  bubbles: "bubbles",
  ultrasonic: "ultrasonic",
  "tracer gas": "tracer",
};
export const outOf100 = (share: number) =>
  share > 0 && share < 0.01 ? "under 1 in 100" : `${Math.round(share * 100)} in 100`;

export default function LeakSearchSheet() {
  const { picture, figures } = useStep(STEP);
  const [chosen, setChosen] = useState<string | null>(null);
  const next = picture.places.find((p) => p.rank === 1);
  const place = picture.places.find((p) => p.id === chosen) ?? next;
  const others = figures.some((f) => f.id === "closed_share");
  return (
    <StepFrame
      step={STEP}
      sub="Tap a place to say what was used and what it showed. A clean place is lowered, never cleared."
      done="Found: go on"
    >
      <div className="grid grid-cols-2 gap-x-5 md:grid-cols-3">
        <ChoiceField step={STEP} keys={["inside"]} hint="it decides the method" className="max-md:col-span-2" />
        <EntryField step={STEP} keys={["lost"]} hint="weighed in since it was full" />
        <EntryField step={STEP} keys={["lost_over"]} />
      </div>
      {picture.places.length > 0 && (
        <>
          <LeakMap places={picture.places} chosen={place?.id ?? null} onChoose={setChosen} />
          {place && <AtPlace key={place.id} place={place} onDone={() => setChosen(null)} />}
          <Places places={picture.places} chosen={place?.id ?? null} onChoose={setChosen} />
        </>
      )}
      <Nitrogen />
      {others && <Decisions />}
    </StepFrame>
  );
}

/** The place at hand: what to do there, and four answers of the same weight. */
function AtPlace({ place, onDone }: { place: PlaceRow; onDone: () => void }) {
  const { type, answer, system } = useJob();
  const { picture } = useStep(STEP);
  const closed = useIsClosed(STEP);
  const [more, setMore] = useState(false);
  const method = NAMES[place.method] ?? "bubbles";
  const path = (field: string) => pathOf(answer.job, STEP, ["places", place.id, field]);
  const say = (field: string, value: string) => {
    type(path(field), value, { ready: true });
    onDone();
  };
  return (
    <section aria-label={place.label} className="mt-3 border-l-4 border-copper pl-4">
      <div className="flex flex-wrap items-start justify-between gap-x-6">
        <div>
          <p className="text-[15px] font-semibold text-copper">
            {place.rank ? `Number ${place.rank} to look at` : place.state === "hit" ? "Found" : "Looked at"}
            {place.minutes ? `, ${Math.round(place.minutes)} minutes` : ""}
          </p>
          <p className="text-[18px] font-semibold first-letter:uppercase">
            {place.label}
            {place.rank ? `: ${place.method}` : ""}
          </p>
          <p className="text-[14px] text-soft">{place.tried}</p>
          {place.rank === 1 && picture.notes.map((note) => <p key={note.text}>{fill(note, system)}</p>)}
        </div>
        {place.chance !== null && (
          <p className="md:text-right">
            <span className="num block text-[24px] leading-[28px]">{outOf100(place.chance)}</span>
            <span className="lab">that it is here and {place.method} shows it</span>
          </p>
        )}
      </div>
      {!closed && (
        <p className="mt-3 flex flex-wrap gap-2">
          <button type="button" className="btn" onClick={() => say(method, "hit")}>
            <Shape word="Stop" /> Leak here
          </button>
          <button type="button" className="btn" onClick={() => say(method, "clean")}>
            <Shape word="Holds" /> Clean, {place.method}
          </button>
          {place.state === "closed" ? (
            <button type="button" className="btn" onClick={() => say("reach", "open")}>
              It is open now
            </button>
          ) : (
            <button type="button" className="btn" onClick={() => say("reach", "closed")}>
              Cannot reach it
            </button>
          )}
          <button type="button" className="btn quiet" onClick={() => setMore(!more)} aria-expanded={more}>
            {more ? "Less" : "Another method"}
          </button>
        </p>
      )}
      {more && (
        <div className="mt-2 grid grid-cols-2 gap-x-5 lg:grid-cols-4">
          {METHODS.map((name) => (
            <ChoiceField key={name} step={STEP} keys={["places", place.id, name]} />
          ))}
          <EntryField step={STEP} keys={["places", place.id, "access"]} />
          <TextField step={STEP} keys={["places", place.id, "note"]} />
        </div>
      )}
    </section>
  );
}

const STATES: Record<PlaceRow["state"], string> = {
  hit: "leak",
  doubted: "one hit, second method next",
  clean: "clean",
  open: "to do",
  closed: "not reachable",
};

/** The same places as a list, in the order of what to do; the map for who cannot see it, and for a phone. */
function Places({
  places,
  chosen,
  onChoose,
}: {
  places: PlaceRow[];
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const { type, answer } = useJob();
  const closed = useIsClosed(STEP);
  const wide = useWide();
  const [adding, setAdding] = useState("");
  const free =
    Array.from({ length: 40 }, (_, n) => `x${n + 1}`).find((id) => !places.some((p) => p.id === id)) ?? "x41";
  return (
    <details className="mt-3" open={!wide}>
      <summary className="min-h-[44px] cursor-pointer py-3 text-[15px] font-semibold">All places, in order</summary>
      <ul>
        {places.map((place) => (
          <li key={place.id} className="border-t border-rule">
            <button
              type="button"
              data-testid={`place-${place.id}`}
              aria-pressed={place.id === chosen}
              className="grid min-h-[44px] w-full grid-cols-[34px_minmax(0,1fr)_minmax(0,1fr)] items-center gap-2 py-1 text-left text-[15px] aria-pressed:bg-tint"
              onClick={() => onChoose(place.id)}
            >
              <StateMark place={place} />
              <span className="font-semibold first-letter:uppercase">{place.label}</span>
              <span className="text-[14px] text-soft">
                {place.state === "clean" || place.state === "hit" ? place.tried : STATES[place.state]}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {!closed && (
        <p className="mt-2 flex gap-2">
          <input
            className="control max-w-[320px]"
            aria-label="a place that is not on the map"
            placeholder="a place that is not on the map"
            value={adding}
            maxLength={80}
            onChange={(event) => setAdding(event.target.value)}
          />
          <button
            type="button"
            className="btn"
            disabled={!adding.trim()}
            onClick={() => {
              type(pathOf(answer.job, STEP, ["places", free, "label"]), adding.trim(), { ready: true });
              setAdding("");
            }}
          >
            Add it
          </button>
        </p>
      )}
    </details>
  );
}

function StateMark({ place }: { place: PlaceRow }) {
  if (place.rank) {
    return (
      <span
        className={`grid h-7 w-7 place-items-center rounded-full border-[1.5px] text-[14px] font-semibold ${place.rank === 1 ? "border-copper bg-copper text-[var(--on-copper)]" : "border-ink"}`}
      >
        {place.rank}
      </span>
    );
  }
  const word = place.state === "hit" ? "Stop" : place.state === "clean" ? "Holds" : "Open";
  return <Shape word={word} size={22} />;
}

/** What nitrogen lost, before and after the repair, and whether that explains the loss. */
function Nitrogen() {
  const { system } = useJob();
  const rows = useRows(STEP, "drops", ["n1"]);
  const { picture, verdict } = useStep(STEP);
  const said = verdict.reasons.find((reason) => reason.rule_id === "leak.explains");
  return (
    <details className="mt-3" open={Boolean(said)}>
      <summary className="min-h-[44px] cursor-pointer py-3 text-[15px] font-semibold">
        Does what was found explain the loss? Drop under nitrogen
      </summary>
      {said && (
        <div className="mb-3 flex flex-wrap items-center gap-4">
          <p className="flex items-center gap-2 text-[16px]">
            <Shape word={said.word} /> {fill(said.message, system)}
          </p>
          {picture.loss && <LossRule loss={picture.loss} />}
        </div>
      )}
      <EntryField step={STEP} keys={["volume"]} className="max-w-[260px]" hint="guess it, the band gets wider" />
      {rows.map((key, n) => (
        <fieldset key={key} className="mt-1">
          <legend className="lab">{n === 0 ? "First hold" : `Hold ${n + 1}`}</legend>
          <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-5">
            {["pressure_start", "pressure_end", "metal_start", "metal_end", "lasted"].map((field) => (
              <EntryField key={field} step={STEP} keys={["drops", key, field]} />
            ))}
          </div>
          <YesNoField step={STEP} keys={["drops", key, "after_repair"]} className="max-w-[420px]" />
        </fieldset>
      ))}
      <AddRow
        name="drops"
        rows={rows}
        prefix="n"
        field="after_repair"
        value={true}
        text="Another hold, after the repair"
      />
    </details>
  );
}

/** Loss and leak on one logarithmic rule. */
function LossRule({ loss }: { loss: NonNullable<ReturnType<typeof useStep>["picture"]["loss"]> }) {
  const { system } = useJob();
  const values = [loss.lost.value, Math.max(loss.low.value, loss.high.value / 50), loss.high.value].filter(
    (v) => v > 0,
  );
  const least = Math.log(Math.min(...values) / 1.6);
  const most = Math.log(Math.max(...values) * 1.6);
  const x = (value: number) => 10 + ((Math.log(Math.max(value, Math.exp(least))) - least) / (most - least)) * 280;
  const low = x(loss.low.value);
  return (
    <svg
      viewBox="0 0 300 74"
      width="300"
      role="img"
      aria-label={`lost ${showAmount(loss.lost, system)}, leaks ${showAmount(loss.low, system)} to ${showAmount(loss.high, system)}`}
    >
      <line x1="10" x2="290" y1="62" y2="62" stroke="var(--ink)" />
      <rect
        x={low}
        y="38"
        width={Math.max(x(loss.high.value) - low, 3)}
        height="14"
        fill="var(--tint2)"
        stroke="var(--ink)"
      />
      <line x1={x(loss.lost.value)} x2={x(loss.lost.value)} y1="22" y2="62" stroke="var(--ink)" strokeWidth="3" />
      <text
        x={Math.min(Math.max(x(loss.lost.value), 60), 240)}
        y="14"
        textAnchor="middle"
        fontSize="13"
        fontWeight="640"
      >
        lost {showAmount(loss.lost, system)}
      </text>
    </svg>
  );
}

/** Where access costs money, the customer decides; what was advised and chosen stays in the record. */
export function Decisions({ step = STEP }: { step?: "leak_search" | "recover" }) {
  const rows = useRows(step, "decisions", ["d1"]);
  const label = (key: string) => factsOf(step, ["decisions", "d1", key]).label;
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">The customer decides</legend>
      {rows.map((key) => (
        <div key={key} className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
          {["question", "advice", "chosen", "by"].map((field) => (
            <TextField key={field} step={step} keys={["decisions", key, field]} label={label(field)} />
          ))}
        </div>
      ))}
    </fieldset>
  );
}

function AddRow(props: { name: string; rows: string[]; prefix: string; field: string; value: unknown; text: string }) {
  const { type, answer } = useJob();
  const closed = useIsClosed(STEP);
  const started = at(answer.job, pathOf(answer.job, STEP, [props.name, props.rows[0] ?? ""])) !== null;
  if (closed || !started) return null;
  const next = `${props.prefix}${props.rows.length + 1}`;
  return (
    <button
      type="button"
      className="btn quiet"
      onClick={() => type(pathOf(answer.job, STEP, [props.name, next, props.field]), props.value, { ready: true })}
    >
      {props.text}
    </button>
  );
}
