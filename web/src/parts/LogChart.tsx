/** A log against the clock: what was read, what models would have, the limit, and when it will be told. */
import { scaleLinear, scaleLog } from "d3-scale";
import type { Chart, System } from "../api/types.ts";
import { clock, factorOf, inUnit, unitFor } from "../format/quantity.ts";
import { useWidth } from "../ui/useWidth.ts";
import { Ahead, Band, EndLabel, Marks, Points } from "./LogMarks.tsx";
import {
  BOTTOM,
  DASHED,
  FEW,
  LEFT,
  line,
  RIGHT,
  range,
  type Scale,
  spoken,
  TOP,
  timeTicks,
  valueTicks,
} from "./logScale.ts";

export function LogChart({ chart, system, height = 280 }: { chart: Chart; system: System; height?: number }) {
  const [ref, width] = useWidth(420);
  const { low, high } = range(chart);
  const until = Math.max(chart.now_s, chart.decide_s ?? 0, ...chart.curves.flatMap((c) => c.seconds.slice(-1)), 60);
  const symbol = unitFor(chart.quantity, system);
  const factor = factorOf(chart.quantity, symbol);
  const upright = (chart.logarithmic ? scaleLog : scaleLinear)([low, high], [height - BOTTOM, TOP]);
  const scale: Scale = {
    x: scaleLinear([0, until], [LEFT, width - RIGHT]),
    y: (value) => upright(chart.logarithmic ? Math.max(value, low) : value),
  };
  const { x, y } = scale;
  const floor = height - BOTTOM;
  const measured = chart.curves.find((curve) => curve.id === "measured");
  const last = measured?.values[measured.values.length - 1];
  const ticks = valueTicks(low, high, factor, chart.logarithmic);
  return (
    <figure ref={ref} className="min-w-0">
      <figcaption className="mb-1 text-[15px] font-semibold">
        {chart.title}{" "}
        <span className="text-[14px] font-normal text-soft">
          {symbol}
          {chart.logarithmic ? ", log scale" : ""}
        </span>
      </figcaption>
      <svg width={width} height={height} role="img" aria-label={spoken(chart, symbol, system)}>
        {chart.not_judged_s > 0 && (
          <rect
            x={x(0)}
            y={TOP}
            width={Math.max(x(Math.min(chart.not_judged_s, until)) - x(0), 0)}
            height={floor - TOP}
            fill="var(--rule)"
            opacity="0.45"
          />
        )}
        {chart.decide_s !== null && (
          <rect
            x={x(chart.now_s)}
            y={TOP}
            width={Math.max(x(chart.decide_s) - x(chart.now_s), 0)}
            height={floor - TOP}
            fill="var(--waittint)"
          />
        )}
        {ticks.map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" />
            <text x={LEFT - 7} y={y(tick) + 4.5} textAnchor="end" fontSize="13" style={{ fill: "var(--soft)" }}>
              {Number(
                inUnit(tick, chart.quantity, symbol, factor < 1 && tick / factor < 10 ? 1 : undefined),
              ).toLocaleString("en-US")}
            </text>
          </g>
        ))}
        {timeTicks(chart, until, width).map((second) => (
          <g key={second}>
            <line x1={x(second)} x2={x(second)} y1={floor} y2={floor + 5} stroke="var(--ink)" />
            <text
              x={Math.min(Math.max(x(second), LEFT + 14), width - 20)}
              y={floor + 21}
              textAnchor="middle"
              fontSize="13"
              style={{ fill: "var(--soft)" }}
            >
              {clock(new Date(chart.starts_at).getTime() + second * 1000)}
            </text>
          </g>
        ))}
        <line x1={LEFT} x2={width - RIGHT} y1={floor} y2={floor} stroke="var(--ink)" strokeWidth="1.3" />
        {chart.limit && (
          <line
            x1={LEFT}
            x2={width - RIGHT}
            y1={y(chart.limit.value)}
            y2={y(chart.limit.value)}
            stroke="var(--stop)"
            strokeWidth="2"
          />
        )}
        <Band chart={chart} scale={scale} />
        {chart.curves.map((curve) => (
          <path
            key={curve.id}
            d={line(curve, scale)}
            fill="none"
            stroke={curve.id === "measured" || chart.id !== "hold" ? "var(--ink)" : "var(--copper)"}
            strokeWidth={curve.id !== "measured" ? 1.8 : curve.seconds.length <= FEW && chart.id === "decay" ? 0.8 : 2}
            strokeDasharray={DASHED[curve.id]}
            opacity={
              curve.id === "second" || (curve.id === "measured" && curve.seconds.length <= FEW && chart.id === "decay")
                ? 0.6
                : 1
            }
          />
        ))}
        {measured && measured.seconds.length <= FEW && <Points curve={measured} scale={scale} />}
        {measured && last !== undefined && (
          <circle cx={x(measured.seconds[measured.seconds.length - 1] ?? 0)} cy={y(last)} r="5" fill="var(--ink)" />
        )}
        {chart.curves.map((curve) => (
          <EndLabel key={curve.id} curve={curve} scale={scale} width={width} />
        ))}
        <Ahead chart={chart} scale={scale} floor={floor} width={width} />
        {chart.limit && (
          <text
            x={LEFT + 6}
            y={y(chart.limit.value) + (y(chart.limit.value) > TOP + 24 ? -6 : 16)}
            fontSize="13"
            fontWeight="640"
            style={{ fill: "var(--stop)" }}
          >
            limit {Number(inUnit(chart.limit.value, chart.quantity, symbol)).toLocaleString("en-US")}
          </text>
        )}
        <Marks chart={chart} scale={scale} width={width} />
      </svg>
    </figure>
  );
}
