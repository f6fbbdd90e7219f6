/** What valves shut off from what: each part as a box, the pipe pair between them with its two valves shut or open. */
import type { Findings } from "../api/types.ts";

type Part = Findings["inside"]["parts"][number];

const FILL: Record<string, string> = {
  charge: "url(#parts-charge)",
  liquid: "var(--tint2)",
  nitrogen: "var(--lowtint)",
  vacuum: "url(#parts-vacuum)",
  zero: "var(--sheet)",
  unknown: "url(#parts-charge)",
};

export function PartsDrawing({ inside, across = false }: { inside: Findings["inside"]; across?: boolean }) {
  const parts = inside.parts ?? [];
  const [first, ...others] = parts.filter((part) => part.shut);
  if (!first) return null;
  const beside = parts.filter((part) => !part.shut);
  const rest = [inside.open_side, ...beside.map((part) => part.label)].join(", ");
  return (
    <figure className={across ? "mt-4 border-b border-rule pb-4" : "mt-4"} data-testid="parts-drawing">
      <Patterns />
      <div className={across ? "flex flex-col md:flex-row md:items-stretch" : "flex flex-col"}>
        <Box part={first} />
        <Valves across={across} passes={first.passes} />
        <div className="flex-[3] border-2 border-ink bg-sheet px-3 py-2">
          <b className="block">{rest}</b>
          <span className="text-[14px] text-soft">open to each other: this work is theirs alone</span>
        </div>
        {others.length > 0 && (
          <div className={across ? "flex gap-2 md:flex-[2] md:flex-col" : "flex gap-2"}>
            {others.map((part) => (
              <div key={part.id} className={across ? "flex flex-1 flex-col md:flex-row" : "flex flex-1 flex-col"}>
                <Valves across={across} passes={part.passes} />
                <Box part={part} />
              </div>
            ))}
          </div>
        )}
      </div>
      <figcaption className="mt-2 text-[14px] text-soft">Leave the valves of what is shut off as they are.</figcaption>
    </figure>
  );
}

function Box({ part }: { part: Part }) {
  return (
    <div className="relative flex-[2] border-2 border-ink px-3 py-2">
      <svg className="absolute inset-0 h-full w-full" aria-hidden="true">
        <rect width="100%" height="100%" fill={FILL[part.medium]} />
      </svg>
      <span className="relative inline-block bg-sheet px-1.5">
        <b className="block">{part.label}</b>
        <span className="text-[14px]">shut off: {part.holds}</span>
      </span>
    </div>
  );
}

/** Two pipes, each with a valve across it; a valve that was seen to let through is drawn open, for it is no barrier. */
function Valves({ across, passes }: { across: boolean; passes: boolean }) {
  return (
    <span className={across ? "self-start pl-6 md:self-center md:pl-0" : "self-start pl-6"}>
      <svg
        viewBox="0 0 48 44"
        className={across ? "block h-[44px] w-[48px] max-md:rotate-90" : "block h-[44px] w-[48px] rotate-90"}
        role="img"
        aria-label={passes ? "a valve between them lets through" : "both valves between them shut"}
      >
        {[10, 34].map((y) => (
          <g key={y} stroke="var(--ink)" strokeWidth="2">
            <line x1="0" x2="48" y1={y - 4} y2={y - 4} strokeWidth="1.2" />
            <line x1="0" x2="48" y1={y + 4} y2={y + 4} strokeWidth="1.2" />
            <path
              d={`M16 ${y - 8} L32 ${y + 8} L32 ${y - 8} L16 ${y + 8} Z`}
              fill={passes ? "var(--sheet)" : "var(--ink)"}
            />
          </g>
        ))}
      </svg>
    </span>
  );
}

function Patterns() {
  return (
    <svg width="0" height="0" className="absolute" aria-hidden="true">
      <pattern id="parts-charge" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="8" height="8" fill="var(--tint3)" />
        <rect width="2" height="8" fill="var(--tint2)" />
      </pattern>
      <pattern id="parts-vacuum" width="8" height="8" patternUnits="userSpaceOnUse">
        <circle cx="4" cy="4" r="1" fill="var(--edge)" />
      </pattern>
    </svg>
  );
}
