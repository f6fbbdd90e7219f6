/** A log against the clock: what was read, what models would have, the limit, and when it will be told. */
import type { Chart, Curve, System } from "../api/types.ts";
import { clock, factorOf, inUnit, unitFor } from "../format/quantity.ts";
import { useWidth } from "../ui/useWidth.ts";

const LEFT = 58;
const RIGHT = 14;
const TOP = 26;
const BOTTOM = 30;
const STEPS_S = [10, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200, 14400, 28800, 86400];
const DASHED: Record<string, string> = { leak: "8 5", expected: "3 4", metal: "3 4" };
const FEW = 40;

type Scale = { x: (second: number) => number; y: (value: number) => number };

function range(chart: Chart): { low: number; high: number } {
  const seen = chart.curves.flatMap((curve) =>
    curve.id === "both" ? [] : curve.values.filter((value) => !chart.logarithmic || value > 0),
  );
  const all = chart.limit ? [...seen, chart.limit.value] : seen;
  const low = Math.min(...all);
  const high = Math.max(...all);
  if (chart.logarithmic) return { low: low / 1.12, high: high * 1.12 };
  const room = Math.max((high - low) * 0.15, (chart.band?.value ?? 0) * 1.3, Math.abs(high) * 0.002);
  return { low: low - room, high: high + room };
}

/** Marks on a scale of values: 1, 2, 5 of every decade, or even steps. */
function valueTicks(low: number, high: number, factor: number, logarithmic: boolean): number[] {
  const [from, to] = [low / factor, high / factor];
  if (logarithmic) {
    const decades = Math.log10(to / from);
    const parts = decades > 2.2 ? [1] : decades > 0.9 ? [1, 2, 5] : [1, 1.5, 2, 3, 4, 5, 6, 7, 8, 9];
    const ticks = [];
    for (let power = Math.floor(Math.log10(from)); power <= Math.ceil(Math.log10(to)); power++) {
      for (const part of parts) ticks.push(part * 10 ** power);
    }
    return ticks.filter((tick) => tick >= from && tick <= to).map((tick) => tick * factor);
  }
  const raw = (to - from) / 5;
  const size = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((part) => part * size).find((candidate) => candidate >= raw) ?? raw;
  const ticks = [];
  for (let tick = Math.ceil(from / step) * step; tick <= to; tick += step) ticks.push(tick * factor);
  return ticks;
}

function timeTicks(chart: Chart, until: number, width: number): number[] {
  const most = Math.max(2, Math.floor(width / 90));
  const step = STEPS_S.find((candidate) => until / candidate <= most) ?? 86400 * Math.ceil(until / 86400 / most);
  const begin = new Date(chart.starts_at).getTime() / 1000;
  const ticks = [];
  for (let second = Math.ceil(begin / step) * step - begin; second <= until; second += step) ticks.push(second);
  return ticks;
}

function line(curve: Curve, { x, y }: Scale): string {
  return curve.seconds
    .map((second, n) => `${n ? "L" : "M"}${x(second).toFixed(1)} ${y(curve.values[n] ?? 0).toFixed(1)}`)
    .join("");
}

export function LogChart({ chart, system, height = 280 }: { chart: Chart; system: System; height?: number }) {
  const [ref, width] = useWidth(420);
  const { low, high } = range(chart);
  const until = Math.max(chart.now_s, chart.decide_s ?? 0, ...chart.curves.flatMap((c) => c.seconds.slice(-1)), 60);
  const symbol = unitFor(chart.quantity, system);
  const factor = factorOf(chart.quantity, symbol);
  const scaled = (value: number) => (chart.logarithmic ? Math.log(Math.max(value, low)) : value);
  const [bottom, top] = [scaled(low), scaled(high)];
  const scale: Scale = {
    x: (second) => LEFT + (second / until) * (width - LEFT - RIGHT),
    y: (value) => TOP + ((top - scaled(value)) / (top - bottom)) * (height - TOP - BOTTOM),
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
        <span className="text-[13px] font-normal text-soft">
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

/** The ± about the curve it belongs to. */
function Band({ chart, scale: { x, y } }: { chart: Chart; scale: Scale }) {
  const curve = chart.curves.find((c) => c.id === "expected");
  const band = chart.band;
  if (!curve || !band || !curve.seconds.length) return null;
  const edge = (sign: number) =>
    curve.seconds.map((second, n) => `${x(second)} ${y((curve.values[n] ?? 0) + sign * band.value)}`);
  return <path d={`M${[...edge(1), ...edge(-1).reverse()].join("L")}Z`} fill="var(--tint2)" opacity="0.5" />;
}

function Points({ curve, scale: { x, y } }: { curve: Curve; scale: Scale }) {
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
function EndLabel({ curve, scale: { x, y }, width }: { curve: Curve; scale: Scale; width: number }) {
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
function Ahead({ chart, scale: { x, y }, floor, width }: { chart: Chart; scale: Scale; floor: number; width: number }) {
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

function Marks({ chart, scale: { x, y }, width }: { chart: Chart; scale: Scale; width: number }) {
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

function spoken(chart: Chart, symbol: string, system: System): string {
  const measured = chart.curves.find((curve) => curve.id === "measured");
  const said = (value: number | undefined) =>
    value === undefined ? "nothing" : `${inUnit(value, chart.quantity, unitFor(chart.quantity, system))} ${symbol}`;
  const limit = chart.limit ? `, limit ${said(chart.limit.value)}` : "";
  return `${chart.title}: from ${said(measured?.values[0])} to ${said(measured?.values[measured.values.length - 1])}${limit}`;
}
