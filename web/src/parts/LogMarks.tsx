import type { Chart, Curve } from "../api/types.ts";
import { clock } from "../format/quantity.ts";
import { RIGHT, type Scale, TOP } from "./logScale.ts";

/** The ± about the curve it belongs to. */
export function Band({ chart, scale: { x, y } }: { chart: Chart; scale: Scale }) {
  const curve = chart.curves.find((c) => c.id === "expected");
  const band = chart.band;
  if (!curve || !band || !curve.seconds.length) return null;
  const edge = (sign: number) =>
    curve.seconds.map((second, n) => `${x(second)} ${y((curve.values[n] ?? 0) + sign * band.value)}`);
  return <path d={`M${[...edge(1), ...edge(-1).reverse()].join("L")}Z`} fill="var(--tint2)" opacity="0.5" />;
}

export function Points({ curve, scale: { x, y } }: { curve: Curve; scale: Scale }) {
  return (
    <>
      {curve.seconds.map((second, n) => (
        <circle
          key={second}
          cx={x(second)}
          cy={y(curve.values[n] ?? 0)}
          r="4"
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
      ))}
    </>
  );
}

/** The name of a model at its end. */
export function EndLabel({ curve, scale: { x, y }, width }: { curve: Curve; scale: Scale; width: number }) {
  const n = curve.seconds.length - 1;
  const value = curve.values[n];
  if (curve.id === "measured" || curve.id === "second" || value === undefined) return null;
  const above = curve.id === "leak";
  return (
    <text
      x={Math.min(x(curve.seconds[n] ?? 0), width - RIGHT) - 4}
      y={Math.max(y(value) + (above ? -9 : 20), TOP + 12)}
      textAnchor="end"
      fontSize="13"
      fontWeight="640"
    >
      {curve.label}
    </text>
  );
}

/** Where the models will stand when it is told. */
export function Ahead({
  chart,
  scale: { x, y },
  floor,
  width,
}: {
  chart: Chart;
  scale: Scale;
  floor: number;
  width: number;
}) {
  const decide = chart.decide_s;
  if (decide === null) return null;
  const models = chart.curves.filter((curve) => curve.id === "leak" || curve.id === "moisture");
  return (
    <>
      <line x1={x(decide)} x2={x(decide)} y1={TOP - 6} y2={floor} stroke="var(--copper)" strokeWidth="2" />
      <text
        x={Math.min(x(decide), width - RIGHT - 26)}
        y={TOP - 10}
        textAnchor="middle"
        fontSize="13"
        fontWeight="640"
        style={{ fill: "var(--copper)" }}
      >
        {clock(new Date(chart.starts_at).getTime() + decide * 1000)}
      </text>
      {models.map((curve) => {
        const n = curve.seconds.findIndex((second) => second >= decide);
        const value = curve.values[n];
        if (value === undefined) return null;
        return <circle key={curve.id} cx={x(decide)} cy={y(value)} r="5" fill="var(--copper)" />;
      })}
    </>
  );
}

export function Marks({ chart, scale: { x, y }, width }: { chart: Chart; scale: Scale; width: number }) {
  return (
    <>
      {chart.marks.map((mark) => {
        const at = x(mark.second);
        const end = at > width - 110;
        return (
          <g key={`${mark.second} ${mark.label}`}>
            <line x1={at} x2={at} y1={TOP} y2={TOP + 8} stroke="var(--ink)" strokeWidth="1.6" />
            {mark.value !== null && <circle cx={at} cy={y(mark.value)} r="4" fill="var(--ink)" />}
            <text x={end ? at - 4 : at + 4} y={TOP - 10} textAnchor={end ? "end" : "start"} fontSize="13">
              {chart.marks.length <= 3 ? mark.label : ""}
            </text>
          </g>
        );
      })}
    </>
  );
}
