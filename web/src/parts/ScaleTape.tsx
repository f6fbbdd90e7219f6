import { scaleLinear } from "d3-scale";
import type { Mark, System } from "../api/types.ts";
import { show } from "../format/quantity.ts";
import { rule } from "./BuildUp.tsx";

/** The scale from start to stop, with a notch at each mark. Gross, or counted down from zero. */
export function ScaleTape({
  marks,
  system,
  counted,
  height = 340,
  reads = null,
}: {
  marks: Mark[];
  system: System;
  counted: boolean;
  height?: number;
  reads?: number | null;
}) {
  const reading = (mark: Mark) => (counted ? mark.counted_kg : mark.gross_kg);
  const [start, close] = [marks.find((m) => m.id === "start"), marks.find((m) => m.id === "close")];
  if (!start || !close) return null;
  const high = reading(start);
  const low = reading(close);
  const y = scaleLinear([high, low], [22, height - 38]);
  const slow = marks.find((m) => m.id === "slow");
  const stall = marks.find((m) => m.id === "stall");
  const shift = reading(start) - start.gross_kg;
  const ticks = rule(high, system, low).filter((tick) => tick.kg >= low);
  return (
    <svg
      viewBox={`0 0 280 ${height}`}
      width="100%"
      role="img"
      aria-label={`Scale from ${show(high, "mass", system)} down to ${show(low, "mass", system)}`}
    >
      <line x1="62" x2="270" y1={y(high)} y2={y(high)} stroke="var(--ink)" strokeWidth="1.4" />
      <text x="130" y={y(high) - 7} fontSize="13" style={{ fill: "var(--soft)" }}>
        start {show(high, "mass", system)}
      </text>
      {ticks.map((tick) => (
        <g key={tick.kg}>
          <line x1="84" x2={tick.text ? 102 : 94} y1={y(tick.kg)} y2={y(tick.kg)} stroke="var(--ink)" />
          {tick.text && (
            <text x="76" y={y(tick.kg) + 4} textAnchor="end" fontSize="13">
              {tick.text.replace("-", "−")}
            </text>
          )}
        </g>
      ))}
      <line x1="84" x2="84" y1={y(high)} y2={y(low)} stroke="var(--ink)" strokeWidth="1.2" />
      <rect x="103" y={y(high)} width="22" height={y(low) - y(high)} fill="var(--tint2)" />
      {slow && <rect x="103" y={y(reading(slow))} width="22" height={y(low) - y(reading(slow))} fill="var(--tint3)" />}
      {stall?.high_kg != null && stall.low_kg != null && (
        <g data-stall>
          <rect
            x="103"
            y={y(stall.high_kg + shift)}
            width="22"
            height={Math.max(y(stall.low_kg + shift) - y(stall.high_kg + shift), 3)}
            fill="none"
            stroke="var(--wait)"
            strokeDasharray="4 3"
          />
          <text x="132" y={y(stall.gross_kg + shift) - 3} fontSize="13" style={{ fill: "var(--wait)" }}>
            stops by itself near
          </text>
          <text x="132" y={y(stall.gross_kg + shift) + 13} fontSize="14" style={{ fill: "var(--wait)" }}>
            {show(stall.gross_kg + shift, "mass", system)}
          </text>
        </g>
      )}
      {slow && (
        <>
          <line
            x1="125"
            x2="270"
            y1={y(reading(slow))}
            y2={y(reading(slow))}
            stroke="var(--edge)"
            strokeDasharray="4 3"
          />
          <text x="132" y={y(reading(slow)) - 20} fontSize="13" style={{ fill: "var(--soft)" }}>
            slow down
          </text>
          <text x="132" y={y(reading(slow)) - 5} fontSize="14" fontWeight="640">
            {show(reading(slow), "mass", system)}
          </text>
        </>
      )}
      {reads !== null && (
        <Index y={y(Math.min(Math.max(reads + shift, low), high))} text={show(reads + shift, "mass", system)} />
      )}
      <line x1="62" x2="270" y1={y(low)} y2={y(low)} stroke="var(--copper)" strokeWidth="2.5" />
      <text x="132" y={y(low) + 18} fontSize="15" fontWeight="640" style={{ fill: "var(--copper)" }}>
        close at {show(low, "mass", system)}
      </text>
    </svg>
  );
}

/** What the scale reads now, moving along the tape. */
function Index({ y, text }: { y: number; text: string }) {
  return (
    <g data-index>
      <path d={`M0 ${y - 11}h88l10 11-10 11H0z`} fill="var(--ink)" />
      <line x1="84" x2="126" y1={y} y2={y} stroke="var(--ink)" strokeWidth="2" />
      <text x="6" y={y + 5} fontSize="13" fontWeight="600" style={{ fill: "var(--sheet)" }}>
        {text}
      </text>
    </g>
  );
}
