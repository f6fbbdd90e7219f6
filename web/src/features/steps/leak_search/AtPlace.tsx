import { useState } from "react";
import type { PlaceRow } from "../../../api/types.ts";
import { ChoiceField, EntryField, TextField } from "../../../fields/index.ts";
import { fill } from "../../../format/message.ts";
import { pathOf, useIsClosed, useJob, useStep } from "../../../job/context.ts";
import { Shape } from "../../../parts/shapes.tsx";
import { outOf100 } from "./share.ts";

const STEP = "leak_search" as const;
const METHODS = ["eyes", "electronic", "bubbles", "ultrasonic", "tracer", "isolation"];

/** The place at hand: what to do there, and four answers of the same weight. */
export function AtPlace({ place, onDone }: { place: PlaceRow; onDone: () => void }) {
  const { type, answer, system } = useJob();
  const { picture } = useStep(STEP);
  const closed = useIsClosed(STEP);
  const [more, setMore] = useState(false);
  const method = place.method_id || "bubbles";
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
          <p className="text-[14px] text-soft">{fill(place.tried, system)}</p>
          {place.rank === 1 && picture.notes.map((note) => <p key={note.text}>{fill(note, system)}</p>)}
        </div>
        {place.chance !== null && (
          <p className="md:text-right">
            <span className="num block text-[24px] leading-[28px]">{outOf100(place.chance)}</span>
            <span className="lab">that it leaks here and {place.method} shows it</span>
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
