import { scaleLinear, scaleLog } from "d3-scale";
import type { Debrief, RunSide } from "../../api/types.ts";
import { factorOf, inUnit, show, unitFor } from "../../format/quantity.ts";
import type { Scale } from "./Lane.tsx";

/** How high each track stands. */
export const [CHARGE, HEAT] = [190, 160];
const DECADES = [13.3322, 66.661, 133.322, 1333.22, 101_325, 1e6, 2e6, 4e6];

type Figure = "inside_kg" | "superheat_k" | "subcooling_k" | "pressure_pa";
type Frame = { debrief: Debrief; x: Scale; left: number; top: number; right: number; system: "us" | "si" };

/** A path through what is known; a gap where it stood still. */
function path(times: readonly number[], values: readonly (number | null)[], x: Scale, y: Scale): string {
  let pen = "M";
  return times
    .map((second, n) => {
      const value = values[n];
      if (value === null || value === undefined) {
        pen = "M";
        return "";
      }
      const step = `${pen}${x(second).toFixed(1)} ${y(value).toFixed(1)}`;
      pen = "L";
      return step;
    })
    .join("");
}

/** Both runs of one figure: the person's drawn through, the careful one's dashed. */
function Both({ debrief, of, x, y }: { debrief: Debrief; of: Figure; x: Scale; y: Scale }) {
  const { careful, person } = debrief;
  const way = (side: RunSide) => path(side.track.times_s, side.track[of], x, y);
  return (
    <>
      <path d={way(careful)} fill="none" stroke="var(--ink)" strokeWidth="1.8" strokeDasharray="6 4" />
      <path d={way(person)} fill="none" stroke="var(--copper)" strokeWidth="2.8" />
    </>
  );
}

export function Charge({ debrief, x, left, top, right, system }: Frame) {
  const { person, careful, belongs_kg: belongs, within_kg: within } = debrief;
  const all = [...person.track.inside_kg, ...careful.track.inside_kg, belongs + within, belongs - within];
  const [least, most] = [Math.min(...all), Math.max(...all)];
  const room = Math.max(most - least, belongs * 0.05) * 0.12;
  const y = scaleLinear([most + room, Math.max(least - room, 0)], [top + 16, top + CHARGE - 22]);
  const pound = factorOf("mass", system === "us" ? "lb" : "kg");
  const ticks = scaleLinear([Math.max(least - room, 0) / pound, (most + room) / pound], [0, 1]).ticks(4);
  const said = Math.abs(person.off_kg);
  const end = person.off_kg > 0 ? "too much" : "short";
  const last = x(person.took_s);
  return (
    <g>
      <text x="0" y={top + 8} fontSize="15" fontWeight="620">
        Inside
      </text>
      {ticks.map((tick) => (
        <text
          key={tick}
          x={left - 8}
          y={y(tick * pound) + 4}
          fontSize="14"
          textAnchor="end"
          style={{ fill: "var(--soft)" }}
        >
          {system === "us" ? show(tick * pound, "mass", "us").replace(".0 oz", " oz") : inUnit(tick, "mass", "kg", 2)}
        </text>
      ))}
      <line x1={left} x2={left} y1={top} y2={top + CHARGE - 18} stroke="var(--ink)" />
      <rect
        x={left}
        y={y(belongs + within)}
        width={right - left}
        height={Math.max(y(belongs - within) - y(belongs + within), 2)}
        fill="var(--holdtint)"
      />
      <line x1={left} x2={right} y1={y(belongs)} y2={y(belongs)} stroke="var(--holds)" />
      <text x={left + 8} y={y(belongs + within) - 5} fontSize="14" fontWeight="620" style={{ fill: "var(--holds)" }}>
        right: {show(belongs, "mass", system)}
      </text>
      <Both debrief={debrief} of="inside_kg" x={x} y={y} />
      <circle cx={last} cy={y(person.track.inside_kg.at(-1) ?? 0)} r="5" fill="var(--copper)" />
      <text
        x={last > right - 190 ? last - 8 : last + 9}
        y={y(person.track.inside_kg.at(-1) ?? 0) - 10}
        fontSize="14"
        fontWeight="640"
        textAnchor={last > right - 190 ? "end" : "start"}
        style={{ fill: "var(--copper)" }}
      >
        you stopped: {show(said, "mass", system)} {end}
      </text>
    </g>
  );
}

export function Heat({ debrief, x, left, top, right, system, spoken }: Frame & { spoken: "superheat" | "subcooling" }) {
  const { person, careful } = debrief;
  const mine = person.track[`${spoken}_k`];
  const its = careful.track[`${spoken}_k`];
  const known = [...mine, ...its].filter((value): value is number => value !== null);
  const degree = factorOf("temperature_delta", unitFor("temperature_delta", system));
  const y = scaleLinear([Math.max(...known, 12 * degree), Math.min(...known, 0)], [top + 12, top + HEAT - 18]);
  const ticks = scaleLinear([Math.min(...known, 0) / degree, Math.max(...known, 12 * degree) / degree], [0, 1]).ticks(
    4,
  );
  return (
    <g>
      <line x1="0" x2={right} y1={top - 8} y2={top - 8} stroke="var(--rule)" />
      <text x="0" y={top + 8} fontSize="15" fontWeight="620">
        {spoken === "superheat" ? "Superheat" : "Subcooling"}
      </text>
      <line x1={left} x2={left} y1={top + 8} y2={top + HEAT - 12} stroke="var(--ink)" />
      {ticks.map((tick) => (
        <text
          key={tick}
          x={left - 8}
          y={y(tick * degree) + 4}
          fontSize="14"
          textAnchor="end"
          style={{ fill: "var(--soft)" }}
        >
          {tick}
        </text>
      ))}
      <Both debrief={debrief} of={`${spoken}_k`} x={x} y={y} />
      {person.moments.map((one) => {
        const value = one[`${spoken}_k`];
        return (
          <g key={one.time_s}>
            <circle
              cx={x(one.time_s)}
              cy={y(value)}
              r="7"
              fill={one.too_soon ? "var(--sheet)" : "var(--copper)"}
              stroke={one.too_soon ? "var(--stop)" : "var(--copper)"}
              strokeWidth="2.4"
            />
            <text
              x={x(one.time_s)}
              y={y(value) + (one.too_soon ? -13 : 23)}
              fontSize="14"
              fontWeight="640"
              textAnchor="middle"
              style={{ fill: one.too_soon ? "var(--stop)" : "var(--copper)" }}
            >
              {inUnit(value, "temperature_delta", unitFor("temperature_delta", system))}
              {one.too_soon && " too soon"}
            </text>
          </g>
        );
      })}
    </g>
  );
}

/** Pressure in a circuit without refrigerant, from a vacuum to nitrogen, each decade as high. */
export function Pressure({ debrief, x, left, top, right, system }: Frame) {
  const { person, careful } = debrief;
  const known = [...person.track.pressure_pa, ...careful.track.pressure_pa].filter(
    (value): value is number => value !== null,
  );
  const y = scaleLog([Math.max(...known, 2e5), Math.max(Math.min(...known, 8e4), 5)], [top + 14, top + HEAT - 18]);
  const said = (pa: number) => (pa < 3000 ? show(pa, "micron", system) : show(pa, "pressure", system));
  return (
    <g>
      <line x1="0" x2={right} y1={top - 8} y2={top - 8} stroke="var(--rule)" />
      <text x="0" y={top + 8} fontSize="15" fontWeight="620">
        Pressure
      </text>
      <line x1={left} x2={left} y1={top + 8} y2={top + HEAT - 12} stroke="var(--ink)" />
      {DECADES.filter((pa) => pa > (y.domain()[1] ?? 0) && pa < (y.domain()[0] ?? 0)).map((pa) => (
        <g key={pa}>
          <line x1={left} x2={right} y1={y(pa)} y2={y(pa)} stroke="var(--rule)" />
          <text x={left - 8} y={y(pa) + 4} fontSize="14" textAnchor="end" style={{ fill: "var(--soft)" }}>
            {said(pa)}
          </text>
        </g>
      ))}
      <Both debrief={debrief} of="pressure_pa" x={x} y={y} />
    </g>
  );
}
