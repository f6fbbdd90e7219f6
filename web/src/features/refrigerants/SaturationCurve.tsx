import { scaleLinear } from "d3-scale";
import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import type { JobPoints, SaturationState, System } from "../../api/types.ts";
import { inUnit, inUnits, show, unitFor } from "../../format/quantity.ts";
import { useWidth } from "../../ui/useWidth.ts";

const HEIGHT = 430;
const EDGE = { left: 52, right: 16, top: 16, bottom: 56 };
const COARSE = 10; // small steps in one large one

export type From = "pressure" | "temperature";
type Props = {
  data: SaturationState;
  system: System;
  from: From;
  points: JobPoints | undefined;
  onMove: (text: string) => void;
};

/** Bubble and dew over pressure, the glide as the band between them, what is asked as a crosshair to drag, and a job's readings on it. */
export function SaturationCurve({ data, system, from, points, onMove }: Props) {
  const [box, width] = useWidth(640);
  const svg = useRef<SVGSVGElement>(null);
  const scales = scalesOf(data, system, width);
  const { x, y, pressure, temperature } = scales;
  const along = from === "pressure";
  const asked = along ? data.gauge_pa : data.temperature_k;
  const unit = along ? pressure : temperature;
  const quantity = along ? "gauge_pressure" : "temperature";
  const now = asked === null ? null : Number(inUnits([asked], quantity, unit)[0]);
  const [first = 0, last = 1] = along ? x.domain() : y.domain();
  const step = unit === "bar" ? 0.1 : 1;
  const move = (value: number) => onMove(Math.min(Math.max(value, first), last).toFixed(step < 1 ? 1 : 0));
  const drag = (event: PointerEvent) => {
    if (!event.buttons || !svg.current) return;
    const place = svg.current.getBoundingClientRect();
    move(along ? x.invert(event.clientX - place.left) : y.invert(event.clientY - place.top));
  };
  const keys = (event: KeyboardEvent) => {
    const up = ["ArrowRight", "ArrowUp"].includes(event.key);
    const far = ["PageUp", "PageDown"].includes(event.key);
    if (!up && !far && !["ArrowLeft", "ArrowDown"].includes(event.key)) return;
    event.preventDefault();
    const sign = up || event.key === "PageUp" ? 1 : -1;
    move((now ?? first) + sign * step * (far || event.shiftKey ? COARSE : 1));
  };
  return (
    <div ref={box}>
      <svg
        ref={svg}
        width="100%"
        height={HEIGHT}
        className="block touch-none select-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          drag(event);
        }}
        onPointerMove={drag}
      >
        <title>{saidOf(data, system)}</title>
        <Grid {...scales} width={width} />
        <Band data={data} {...scales} width={width} />
        {points && <Readings points={points} zero={data.gauge_zero_pa} system={system} {...scales} />}
        {now !== null && <Crosshair data={data} from={from} now={now} width={width} {...scales} />}
        {now !== null && (
          <g
            role="slider"
            tabIndex={0}
            aria-label={`${along ? "pressure" : "temperature"}, ${unit}`}
            aria-orientation={along ? "horizontal" : "vertical"}
            aria-valuemin={first}
            aria-valuemax={last}
            aria-valuenow={now}
            aria-valuetext={saidOf(data, system)}
            className="cursor-grab outline-none [&:focus-visible>rect]:stroke-[3]"
            transform={along ? `translate(${x(now)} ${HEIGHT - EDGE.bottom + 22})` : `translate(38 ${y(now)})`}
            onKeyDown={keys}
          >
            <rect
              x="-36"
              y="-22"
              width="72"
              height="44"
              rx="4"
              fill="var(--copper)"
              stroke="var(--ink)"
              strokeWidth="0"
            />
            <text y="6" fontSize="17" fontWeight="650" textAnchor="middle" style={{ fill: "var(--on-copper)" }}>
              {now.toFixed(step < 1 ? 1 : 0)}
            </text>
          </g>
        )}
      </svg>
    </div>
  );
}

type Scale = ReturnType<typeof scaleLinear<number, number>>;
type Scales = { x: Scale; y: Scale; pressure: string; temperature: string };

/** Pressure across, from nothing on the gauge; temperature up; both in the person's units. */
function scalesOf(data: SaturationState, system: System, width: number): Scales {
  const pressure = unitFor("gauge_pressure", system);
  const temperature = unitFor("temperature", system);
  const across = inUnits(
    data.table.flatMap((row) => [row.bubble_gauge_pa, row.dew_gauge_pa]),
    "gauge_pressure",
    pressure,
  );
  const up = inUnits(
    data.table.map((row) => row.temperature_k),
    "temperature",
    temperature,
  );
  const x = scaleLinear([Math.min(0, ...across), Math.max(...across, 1)], [EDGE.left, width - EDGE.right]);
  const y = scaleLinear([Math.min(...up, 0), Math.max(...up, 1)], [HEIGHT - EDGE.bottom, EDGE.top]);
  return { x, y, pressure, temperature };
}

function Grid({ x, y, pressure, temperature, width }: Scales & { width: number }) {
  return (
    <g fontSize="14" style={{ fill: "var(--soft)" }}>
      {y.ticks(8).map((value) => (
        <g key={value}>
          <line x1={EDGE.left} x2={width - EDGE.right} y1={y(value)} y2={y(value)} stroke="var(--rule)" />
          <text x={EDGE.left - 8} y={y(value) + 5} textAnchor="end">
            {value}
          </text>
        </g>
      ))}
      {x.ticks(width < 500 ? 4 : 7).map((value) => (
        <g key={value}>
          <line x1={x(value)} x2={x(value)} y1={EDGE.top} y2={HEIGHT - EDGE.bottom} stroke="var(--rule)" />
          <text x={x(value)} y={HEIGHT - EDGE.bottom + 18} textAnchor="middle">
            {value}
          </text>
        </g>
      ))}
      <text x={EDGE.left + 4} y={EDGE.top + 4}>
        {temperature}
      </text>
      <text x={width - EDGE.right} y={HEIGHT - 4} textAnchor="end">
        {pressure}, on this gauge
      </text>
    </g>
  );
}

function Band({ data, x, y, pressure, temperature, width }: Scales & { data: SaturationState; width: number }) {
  const line = (of: "bubble_gauge_pa" | "dew_gauge_pa") =>
    data.table.map((row) => {
      const [across = 0] = inUnits([row[of]], "gauge_pressure", pressure);
      const [up = 0] = inUnits([row.temperature_k], "temperature", temperature);
      return `${x(across).toFixed(1)} ${y(up).toFixed(1)}`;
    });
  const [bubble, dew] = [line("bubble_gauge_pa"), line("dew_gauge_pa")];
  const at = (share: number) => Math.floor(data.table.length * share);
  const place = (points: string[], share: number) => (points[at(share)] ?? "0 0").split(" ").map(Number);
  const [bx = 0, by = 0] = place(bubble, 0.82);
  const [dx = 0, dy = 0] = place(dew, 0.9);
  return (
    <g>
      <path d={`M${bubble.join("L")}L${[...dew].reverse().join("L")}z`} fill="var(--line)" opacity="0.35" />
      <path d={`M${bubble.join("L")}`} fill="none" stroke="var(--ink)" strokeWidth="2" />
      <path d={`M${dew.join("L")}`} fill="none" stroke="var(--ink)" strokeWidth="2" strokeDasharray="7 3" />
      <g fontSize="16" fontWeight="600">
        <text x={Math.min(bx + 10, width - 70)} y={by + 22}>
          bubble
        </text>
        <text x={dx - 14} y={dy - 10} textAnchor="end">
          dew
        </text>
      </g>
      <g fontSize="14" style={{ fill: "var(--soft)" }}>
        <text x={EDGE.left + 12} y={EDGE.top + 34}>
          all vapour: superheat
        </text>
        <text x={width - EDGE.right - 8} y={HEIGHT - EDGE.bottom - 14} textAnchor="end">
          all liquid: subcooling
        </text>
      </g>
    </g>
  );
}

function Crosshair({
  data,
  from,
  now,
  width,
  x,
  y,
  pressure,
  temperature,
}: Scales & { data: SaturationState; from: From; now: number; width: number }) {
  const along = from === "pressure";
  const met = along ? [data.bubble_k, data.dew_k] : [data.bubble_gauge_pa, data.dew_gauge_pa];
  const quantity = along ? "temperature" : "gauge_pressure";
  const unit = along ? temperature : pressure;
  return (
    <g stroke="var(--copper)" strokeWidth="2" fill="var(--copper)">
      {along ? (
        <line x1={x(now)} x2={x(now)} y1={EDGE.top} y2={HEIGHT - EDGE.bottom} />
      ) : (
        <line x1={EDGE.left} x2={width - EDGE.right} y1={y(now)} y2={y(now)} />
      )}
      {met.map((value, n) => {
        if (value === null) return null;
        const [there = 0] = inUnits([value], quantity, unit);
        const [px, py] = along ? [x(now), y(there)] : [x(there), y(now)];
        return (
          <g key={n === 0 ? "bubble" : "dew"}>
            <circle cx={px} cy={py} r="5" stroke="none" />
            <path
              d={along ? `M${EDGE.left} ${py}H${px}` : `M${px} ${HEIGHT - EDGE.bottom}V${py}`}
              strokeWidth="1.4"
              strokeDasharray="5 4"
            />
          </g>
        );
      })}
    </g>
  );
}

/** Superheat is measured from dew, subcooling from bubble: the drop to where the pipe was read. */
function Readings({
  points,
  zero,
  system,
  x,
  y,
  pressure,
  temperature,
}: Scales & { points: JobPoints; zero: number; system: System }) {
  const sides = [
    {
      name: "suction line",
      point: points.suction,
      from: points.dew_k,
      by: points.superheat_k,
      word: "superheat",
      colour: "var(--low)",
    },
    {
      name: "liquid line",
      point: points.liquid,
      from: points.bubble_k,
      by: points.subcooling_k,
      word: "subcooling",
      colour: "var(--high)",
    },
  ];
  return sides.map(({ name, point, from, by, word, colour }) => {
    if (!point || from == null || by == null) return null;
    const [across = 0] = inUnits([point.pressure_pa - zero], "gauge_pressure", pressure);
    const [read = 0, saturated = 0] = inUnits([point.temperature_k, from], "temperature", temperature);
    const above = read >= saturated;
    return (
      <g key={word} fontSize="14" fontWeight="600" style={{ fill: colour }}>
        <line x1={x(across)} x2={x(across)} y1={y(saturated)} y2={y(read)} stroke={colour} strokeWidth="3" />
        <circle cx={x(across)} cy={y(read)} r="6" stroke="none" />
        <text x={x(across) + 10} y={y(read) + (above ? -8 : 18)}>
          {name} {show(point.temperature_k, "temperature", system)}
        </text>
        <text x={x(across) + 10} y={y(read) + (above ? 9 : 35)} style={{ fill: "var(--ink)" }}>
          {word} {show(by, "temperature_delta", system)}
        </text>
      </g>
    );
  });
}

/** What the picture says, in words. */
function saidOf(data: SaturationState, system: System): string {
  const at = data.gauge_pa;
  if (at === null || data.bubble_k === null || data.dew_k === null) return `Bubble and dew of ${data.refrigerant}`;
  const said = [show(data.bubble_k, "temperature", system), show(data.dew_k, "temperature", system)];
  return `${data.refrigerant} at ${inUnit(at, "gauge_pressure", unitFor("gauge_pressure", system))} ${unitFor("gauge_pressure", system)}: bubble ${said[0]}, dew ${said[1]}`;
}
