import { scaleLinear } from "d3-scale";
import type { System, TrimTape as Tape, TrimRow } from "../api/types.ts";
import { show } from "../format/quantity.ts";
import { rule } from "./BuildUp.tsx";
import { spread } from "./ClockTape.tsx";

const TOP = 16;
const TAPE = 84;

/** The charge of the running unit on its tape: what is in, what holds today, how far trimming goes, and the step to come. */
export function TrimTape({
  tape,
  rows,
  system,
  height = 360,
}: {
  tape: Tape;
  rows: TrimRow[];
  system: System;
  height?: number;
}) {
  const steps = rows.filter((row) => row.inside_kg !== null);
  const edges = [
    tape.cap_low_kg,
    tape.cap_high_kg,
    tape.inside_kg,
    tape.next_kg ?? tape.inside_kg,
    ...steps.map((row) => row.inside_kg ?? tape.inside_kg),
  ];
  const span = Math.max(...edges) - Math.min(...edges) || tape.plan_kg * 0.1;
  const [low, high] = [Math.min(...edges) - span * 0.08, Math.max(...edges) + span * 0.08];
  const y = scaleLinear([high, low], [TOP, height - TOP]);
  const inside = (kg: number) => Math.min(Math.max(kg, low), high);
  const named = [
    { kg: tape.cap_high_kg, text: "most", colour: "var(--soft)" },
    { kg: tape.plan_kg, text: "plan", colour: "var(--soft)" },
    { kg: tape.cap_low_kg, text: "least", colour: "var(--soft)" },
    { kg: tape.inside_kg, text: "in now", colour: "var(--ink)" },
    ...(tape.next_kg == null ? [] : [{ kg: tape.next_kg, text: "next", colour: "var(--copper)" }]),
  ].sort((a, b) => b.kg - a.kg);
  const places = spread(
    named.map((label) => y(label.kg)),
    18,
  );
  return (
    <svg
      viewBox={`0 0 280 ${height + 16}`}
      width="100%"
      role="img"
      data-testid="trim-tape"
      aria-label={named.map((label) => `${label.text} ${show(label.kg, "mass", system)}`).join(", ")}
    >
      {rule(high, system, low)
        .filter((tick) => tick.kg >= low && tick.kg <= high)
        .map((tick) => (
          <g key={tick.kg}>
            <line x1={TAPE - (tick.text ? 12 : 7)} x2={TAPE} y1={y(tick.kg)} y2={y(tick.kg)} stroke="var(--ink)" />
            {tick.text && Math.abs(y(tick.kg) - y(tape.inside_kg)) > 16 && (
              <text x={TAPE - 16} y={y(tick.kg) + 4.5} fontSize="13" textAnchor="end">
                {tick.text}
              </text>
            )}
          </g>
        ))}
      <line x1={TAPE} x2={TAPE} y1={TOP} y2={height - TOP} stroke="var(--ink)" strokeWidth="1.2" />
      <rect
        x={TAPE + 1}
        y={y(tape.inside_kg)}
        width="22"
        height={Math.max(height - TOP - y(tape.inside_kg), 0)}
        fill="var(--tint2)"
      />
      {steps.map((row) => (
        <line
          key={row.id}
          x1={TAPE + 1}
          x2={TAPE + 23}
          y1={y(row.inside_kg ?? 0)}
          y2={y(row.inside_kg ?? 0)}
          stroke="var(--sheet)"
          strokeWidth="2"
        />
      ))}
      {tape.holds_low_kg != null && tape.holds_high_kg != null && (
        <rect
          data-holds
          x={TAPE + 27}
          y={y(inside(tape.holds_high_kg))}
          width="9"
          height={Math.max(y(inside(tape.holds_low_kg)) - y(inside(tape.holds_high_kg)), 2)}
          fill="var(--holdtint)"
          stroke="var(--holds)"
          strokeWidth="1.4"
        />
      )}
      {[tape.cap_low_kg, tape.cap_high_kg].map((kg) => (
        <line key={kg} x1={TAPE} x2={TAPE + 42} y1={y(kg)} y2={y(kg)} stroke="var(--edge)" strokeDasharray="4 3" />
      ))}
      <line x1={TAPE} x2={TAPE + 26} y1={y(tape.plan_kg)} y2={y(tape.plan_kg)} stroke="var(--edge)" />
      {tape.next_kg != null && (
        <line
          x1={TAPE - 6}
          x2={TAPE + 42}
          y1={y(tape.next_kg)}
          y2={y(tape.next_kg)}
          stroke="var(--copper)"
          strokeWidth="2.5"
        />
      )}
      {named.map((label, n) => (
        <g key={label.text}>
          <path
            d={`M${TAPE + 42} ${y(label.kg)}L${TAPE + 56} ${places[n] ?? 0}`}
            stroke={label.colour}
            strokeWidth="0.8"
            fill="none"
          />
          <text x={TAPE + 60} y={(places[n] ?? 0) + 4.5} fontSize="14" style={{ fill: label.colour }}>
            {label.text}
            <tspan dx="7" fontWeight="640">
              {show(label.kg, "mass", system)}
            </tspan>
          </text>
        </g>
      ))}
      <path
        d={`M0 ${y(tape.inside_kg) - 12}h66l12 12-12 12H0z`}
        fill="var(--ink)"
        transform={`translate(${TAPE - 80} 0)`}
      />
      <text x={TAPE - 76} y={y(tape.inside_kg) + 5} fontSize="13" fontWeight="640" style={{ fill: "var(--sheet)" }}>
        {show(tape.inside_kg, "mass", system).replace(/ \(.*/, "").replace(" lb ", "·").replace(" oz", "")}
      </text>
      {tape.holds_low_kg != null && (
        <text x={TAPE + 27} y={height + 12} fontSize="13" style={{ fill: "var(--holds)" }}>
          green: inside tolerance today
        </text>
      )}
    </svg>
  );
}
