import { scaleLinear } from "d3-scale";
import type { SaturationState, System } from "../../api/types.ts";
import { inUnit, show, unitFor } from "../../format/quantity.ts";

/** One temperature tape: bubble pressures on its left, dew pressures on its right; the glide is the offset between the flags. */
export function SaturationTape({
  data,
  system,
  height = 470,
}: {
  data: SaturationState;
  system: System;
  height?: number;
}) {
  const middle =
    data.bubble_k !== null && data.dew_k !== null ? (data.bubble_k + data.dew_k) / 2 : (data.temperature_k ?? 283.15);
  const half = 20;
  const rows = data.table.filter((row) => Math.abs(row.temperature_k - middle) <= half);
  const y = scaleLinear([middle - half, middle + half], [height - 34, 34]);
  const unit = unitFor("temperature", system);
  return (
    <svg
      viewBox={`0 0 280 ${height}`}
      width="100%"
      role="img"
      aria-label={
        data.dew_k !== null && data.bubble_k !== null
          ? `Bubble ${show(data.bubble_k, "temperature", system)}, dew ${show(data.dew_k, "temperature", system)}`
          : "No pressure entered"
      }
    >
      <text x="64" y="14" fontSize="14" fontWeight="640" textAnchor="end">
        bubble
      </text>
      <text x="140" y="14" fontSize="13" textAnchor="middle" style={{ fill: "var(--soft)" }}>
        {unit}
      </text>
      <text x="216" y="14" fontSize="14" fontWeight="640">
        dew
      </text>
      <rect x="118" y="24" width="44" height={height - 44} fill="var(--sheet)" stroke="var(--ink)" />
      {data.bubble_k !== null && data.dew_k !== null && (
        <rect
          x="118"
          y={y(data.dew_k)}
          width="44"
          height={Math.max(y(data.bubble_k) - y(data.dew_k), 1)}
          fill="var(--lowtint)"
        />
      )}
      {rows.map((row) => (
        <g key={row.temperature_k}>
          <text x="140" y={y(row.temperature_k) + 5} fontSize="14" fontWeight="620" textAnchor="middle">
            {inUnit(row.temperature_k, "temperature", unit, 0)}
          </text>
          <line x1="104" x2="118" y1={y(row.temperature_k)} y2={y(row.temperature_k)} stroke="var(--edge)" />
          <line x1="162" x2="176" y1={y(row.temperature_k)} y2={y(row.temperature_k)} stroke="var(--edge)" />
          <text x="98" y={y(row.temperature_k) + 5} fontSize="13" textAnchor="end" style={{ fill: "var(--soft)" }}>
            {inUnit(row.bubble_gauge_pa, "gauge_pressure", unitFor("gauge_pressure", system))}
          </text>
          <text x="182" y={y(row.temperature_k) + 5} fontSize="13" style={{ fill: "var(--soft)" }}>
            {inUnit(row.dew_gauge_pa, "gauge_pressure", unitFor("gauge_pressure", system))}
          </text>
        </g>
      ))}
      {data.bubble_k !== null && data.gauge_pa !== null && (
        <Flag x={0} tip={116} y={y(data.bubble_k)} text={show(data.gauge_pa, "gauge_pressure", system)} />
      )}
      {data.dew_k !== null && data.gauge_pa !== null && (
        <Flag x={280} tip={164} y={y(data.dew_k)} text={show(data.gauge_pa, "gauge_pressure", system)} />
      )}
    </svg>
  );
}

function Flag({ x, tip, y, text }: { x: number; tip: number; y: number; text: string }) {
  const inner = tip + (x < tip ? -14 : 14);
  return (
    <g>
      <path d={`M${x} ${y - 13}H${inner}L${tip} ${y}L${inner} ${y + 13}H${x}z`} fill="var(--ink)" />
      <text
        x={(x + inner) / 2}
        y={y + 5}
        fontSize="14"
        fontWeight="640"
        textAnchor="middle"
        style={{ fill: "var(--sheet)" }}
      >
        {text}
      </text>
    </g>
  );
}
