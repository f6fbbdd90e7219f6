import type { CutPart, LookInside, Units } from "../../api/types.ts";
import { show } from "../../format/quantity.ts";
import { NAMES, type Place, places } from "./layout.ts";

const [TOP, HIGH, BOTTOM] = [62, 96, 44];
const WORDS: Record<string, string> = { gas: "gas", liquid: "liquid" };

/** Every part with its liquid by height, its zones named, what is in it written over it. */
export function Whereabouts({ inside, system, width }: { inside: LookInside; system: Units; width: number }) {
  const laid = places(inside, width);
  const said = inside.parts
    .map((part) => `${NAMES[part.id] ?? part.id} ${show(part.mass_kg, "mass", system)}`)
    .join(", ");
  return (
    <svg
      width={width}
      height={TOP + HIGH + BOTTOM}
      role="img"
      aria-label={`In the circuit: ${said}`}
      data-testid="whereabouts"
    >
      {inside.parts.map((part, n) => {
        const place = laid[n];
        return place ? (
          <OnePart
            key={part.id}
            part={part}
            place={place}
            system={system}
            raised={n % 2 === 1}
            running={inside.running}
          />
        ) : null;
      })}
    </svg>
  );
}

type PartProps = { part: CutPart; place: Place; system: Units; raised: boolean; running: boolean };

function OnePart({ part, place, system, raised, running }: PartProps) {
  const { x, width } = place;
  const narrow = width < 78;
  const lift = narrow && raised ? 34 : 0;
  const middle = x + width / 2;
  const anchor = middle < 40 ? "start" : "middle";
  const left = anchor === "start" ? x : middle;
  return (
    <g>
      {lift > 0 && <line x1={middle} x2={middle} y1={TOP - lift + 10} y2={TOP} stroke="var(--edge)" />}
      <text x={left} y={TOP - 24 - lift + (lift ? 8 : 0)} textAnchor={anchor} fontSize="14" fontWeight="620">
        {NAMES[part.id] ?? part.id}
      </text>
      <text
        x={left}
        y={TOP - 7 - lift + (lift ? 8 : 0)}
        textAnchor={anchor}
        fontSize="14"
        style={{ fill: "var(--soft)" }}
      >
        {show(part.mass_kg, "mass", system)}
      </text>
      <path d={liquid(part.heights, x, width)} fill="var(--tint2)" />
      <rect
        x={x + 0.7}
        y={TOP}
        width={width - 1.4}
        height={HIGH}
        rx="4"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {running ? <Zones part={part} place={place} /> : <Stands part={part} place={place} />}
    </g>
  );
}

/** The outline of liquid that stands so high at equal steps along a part. */
function liquid(heights: readonly number[], x: number, width: number): string {
  const floor = TOP + HIGH;
  const points = heights.map(
    (height, n) =>
      `L${(x + (width * n) / Math.max(heights.length - 1, 1)).toFixed(1)} ${(floor - height * HIGH).toFixed(1)}`,
  );
  return `M${x.toFixed(1)} ${floor}${points.join("")}L${(x + width).toFixed(1)} ${floor}Z`;
}

/** What lies in a part of a unit that stands. */
function Stands({ part, place }: { part: CutPart; place: Place }) {
  const level = part.heights[0] ?? 0;
  if (place.width < 52) return null;
  return (
    <text x={place.x + place.width / 2} y={TOP + 34} textAnchor="middle" fontSize="14" style={{ fill: "var(--soft)" }}>
      {level > 0.97 ? "full of liquid" : level > 0.01 ? "gas over liquid" : "gas"}
    </text>
  );
}

function Zones({ part, place }: { part: CutPart; place: Place }) {
  const condensing = part.id === "condenser";
  let from = place.x;
  return part.zones.map((zone, n) => {
    const width = zone.share * place.width;
    const x = from;
    from += width;
    const word =
      zone.what === "two_phase"
        ? condensing
          ? "condensing"
          : part.id === "evaporator"
            ? "boiling"
            : "mixed"
        : WORDS[zone.what];
    const last = n === part.zones.length - 1;
    return (
      <g key={zone.what}>
        {!last && (
          <line x1={x + width} x2={x + width} y1={TOP} y2={TOP + HIGH} stroke="var(--edge)" strokeDasharray="3 3" />
        )}
        {width > 52 && (
          <text x={x + width / 2} y={TOP + 34} textAnchor="middle" fontSize="14" style={{ fill: "var(--soft)" }}>
            {word}
          </text>
        )}
        {condensing && zone.what === "liquid" && (
          <text x={Math.max(x + width, 172)} y={TOP + HIGH + 20} textAnchor="end" fontSize="14" fontWeight="620">
            all liquid in the last {(zone.share * 100).toFixed(0)} %
          </text>
        )}
        {condensing && last && zone.what === "two_phase" && (
          <text
            x={x + width}
            y={TOP + HIGH + 20}
            textAnchor="end"
            fontSize="14"
            fontWeight="620"
            style={{ fill: "var(--wait)" }}
          >
            never all liquid
          </text>
        )}
        {part.id === "evaporator" && zone.what === "gas" && (
          <text x={x} y={TOP + HIGH + 20} textAnchor="start" fontSize="14" fontWeight="620">
            dry from here
          </text>
        )}
        {part.id === "evaporator" && last && zone.what === "two_phase" && part.zones.length === 1 && (
          <text x={x} y={TOP + HIGH + 20} fontSize="14" fontWeight="620" style={{ fill: "var(--wait)" }}>
            wet to the end
          </text>
        )}
      </g>
    );
  });
}
