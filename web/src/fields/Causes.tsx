import { useState } from "react";
import type { CauseRow } from "../api/types.ts";
import { fill } from "../format/message.ts";
import { useJob } from "../job/context.ts";

const WORDS = ["", "fits poorly", "fits partly", "fits well", "fits best"];

/** Every cause that fits, with what speaks for and against it. */
export function Causes({ causes }: { causes: CauseRow[] }) {
  const [all, setAll] = useState(false);
  if (!causes.length) return null;
  const shown = all ? causes : causes.filter((cause, n) => n < 3 || cause.fit > 1);
  const hidden = causes.length - shown.length;
  return (
    <section aria-label="What it can be" className="mt-4">
      <div className="hidden grid-cols-[minmax(0,1fr)_minmax(0,1.3fr)_minmax(0,1.3fr)] gap-x-5 border-b border-ink pb-1 text-[14px] text-soft md:grid">
        <span>Cause</span>
        <span>
          <b className="text-ink">+</b> points to it
        </span>
        <span>
          <b className="text-ink">−</b> points away from it
        </span>
      </div>
      <ol>
        {shown.map((cause, n) => (
          <Cause key={cause.id} cause={cause} place={n + 1} />
        ))}
      </ol>
      {(hidden > 0 || all) && (
        <button type="button" className="btn quiet" onClick={() => setAll(!all)}>
          {all ? "Show fewer" : `${hidden} more that fit poorly`}
        </button>
      )}
    </section>
  );
}

function Cause({ cause, place }: { cause: CauseRow; place: number }) {
  const { system } = useJob();
  return (
    <li
      data-testid={`cause-${cause.id}`}
      className="grid gap-x-5 gap-y-1 border-b border-rule py-2 md:grid-cols-[minmax(0,1fr)_minmax(0,1.3fr)_minmax(0,1.3fr)]"
    >
      <div>
        <p className="text-[15px] font-semibold">
          <span className="mr-2 text-soft">{place}</span>
          {cause.label}
        </p>
        <p className="mt-1 flex items-center gap-2 text-[14px] text-soft">
          <svg width="58" height="8" viewBox="0 0 58 8" aria-hidden="true">
            {[1, 2, 3, 4].map((step) => (
              <rect
                key={step}
                x={(step - 1) * 15 + 0.5}
                y="0.5"
                width="12"
                height="7"
                fill={step <= cause.fit ? "var(--ink)" : "none"}
                stroke="var(--ink)"
              />
            ))}
          </svg>
          {WORDS[cause.fit]}
        </p>
      </div>
      <Speaks list={cause.speaks_for.map((m) => fill(m, system))} mark="+" />
      <div>
        <Speaks list={cause.speaks_against.map((m) => fill(m, system))} mark="−" />
        {cause.excluded_by && (
          <p className="text-[14px] text-soft">
            <b>Would be excluded by:</b> {cause.excluded_by}
          </p>
        )}
      </div>
    </li>
  );
}

function Speaks({ list, mark }: { list: string[]; mark: string }) {
  if (!list.length) return <p className="text-[14px] text-soft max-md:hidden">nothing read so far</p>;
  return (
    <ul className="text-[14px]">
      {list.slice(0, 3).map((text) => (
        <li key={text}>
          <span className="mr-1 font-semibold md:hidden">{mark}</span>
          {text}
        </li>
      ))}
    </ul>
  );
}
