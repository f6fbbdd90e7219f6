import { scaleLinear, scaleLog } from "d3-scale";
import { useMemo } from "react";
import type { PhChart as Dome, PhPoint, System } from "../api/types.ts";
import { factorOf, inUnit, show, unitFor } from "../format/quantity.ts";
import { useWidth } from "../ui/useWidth.ts";

export type Way = { name: string; points: PhPoint[]; dashed?: boolean };

const [LEFT, RIGHT, TOP, BOTTOM] = [54, 14, 22, 40];
const AROUND = 1.7;
const TICKS = [2, 5, 10, 20, 50, 100, 200, 400, 800, 1600, 3200, 6400];
const KJ = 1000;
const CORNERS = ["suction", "discharge", "liquid", "after the valve"];

/** Pressure over enthalpy: a dome for each refrigerant, and ways round it with numbered corners. */
export function PhChart({
  domes,
  ways,
  system,
  height = 320,
}: {
  domes: Dome[];
  ways: Way[];
  system: System;
  height?: number;
}) {
  const [box, width] = useWidth(560);
  const unit = unitFor("pressure", system);
  const frame = useMemo(() => frameOf(domes, ways), [domes, ways]);
  const x = scaleLinear([frame.cold, frame.hot], [LEFT, width - RIGHT]);
  const y = scaleLog([frame.least, frame.most], [height - BOTTOM, TOP]);
  const line = (points: PhPoint[]) =>
    points.map((p, n) => `${n ? "L" : "M"}${x(p.enthalpy_j_kg).toFixed(1)} ${y(p.pressure_pa).toFixed(1)}`).join("");
  const levels = TICKS.map((value) => value * factorOf("pressure", unit)).filter(
    (pa) => pa > frame.least && pa < frame.most,
  );
  const across = scaleLinear([frame.cold / KJ, frame.hot / KJ], [0, 1]).ticks(width < 480 ? 4 : 9);
  return (
    <div ref={box}>
      <svg width={width} height={height} role="img" aria-label={said(ways, system)} data-testid="ph-chart">
        <defs>
          <clipPath id="ph-inside">
            <rect x={LEFT} y={TOP} width={Math.max(width - LEFT - RIGHT, 0)} height={height - TOP - BOTTOM} />
          </clipPath>
        </defs>
        <text x={LEFT - 8} y={14} textAnchor="end" fontSize="13" style={{ fill: "var(--soft)" }}>
          {unit}
        </text>
        {levels.map((pa) => (
          <g key={pa}>
            <line x1={LEFT} x2={width - RIGHT} y1={y(pa)} y2={y(pa)} stroke="var(--rule)" />
            <text x={LEFT - 8} y={y(pa) + 4} textAnchor="end" fontSize="13" style={{ fill: "var(--soft)" }}>
              {inUnit(pa, "pressure", unit, 0)}
            </text>
          </g>
        ))}
        {across.map((kj) => (
          <text
            key={kj}
            x={x(kj * KJ)}
            y={height - 22}
            textAnchor="middle"
            fontSize="13"
            style={{ fill: "var(--soft)" }}
          >
            {kj}
          </text>
        ))}
        <text x={width - RIGHT} y={height - 5} textAnchor="end" fontSize="13" style={{ fill: "var(--soft)" }}>
          enthalpy, kJ/kg
        </text>
        <g clipPath="url(#ph-inside)">
          {domes.map((dome, n) => (
            <g key={dome.refrigerant}>
              {n === 0 && (
                <path
                  d={`${line(dome.bubble)}${line([...dome.dew].reverse()).replace("M", "L")}Z`}
                  fill="var(--tint)"
                />
              )}
              {n === 0 &&
                dome.isotherms.map((one) => (
                  <path
                    key={one.temperature_k}
                    d={line(one.points)}
                    fill="none"
                    stroke="var(--edge)"
                    strokeDasharray="2 4"
                  />
                ))}
              <path
                d={`${line(dome.bubble)}${line(dome.dew)}`}
                fill="none"
                stroke="var(--ink)"
                strokeWidth="1.5"
                strokeDasharray={n ? "6 4" : undefined}
              />
            </g>
          ))}
        </g>
        <Isotherms
          dome={domes[0]}
          x={x}
          y={y}
          frame={frame}
          corners={ways.flatMap((way) => way.points)}
          system={system}
        />
        <path
          d={`M${LEFT} ${TOP}V${height - BOTTOM}H${width - RIGHT}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
        {[...ways].reverse().map((way) => (
          <g key={way.name}>
            <path
              d={`${line(way.points)}Z`}
              fill="none"
              stroke={way.dashed ? "var(--soft)" : "var(--copper)"}
              strokeWidth="2.5"
              strokeDasharray={way.dashed ? "7 5" : undefined}
            />
            {way.points.map((point, n) => (
              <Corner
                key={CORNERS[n]}
                x={x(point.enthalpy_j_kg)}
                y={y(point.pressure_pa)}
                number={way.dashed ? 0 : n + 1}
              />
            ))}
          </g>
        ))}
      </svg>
      {ways.length > 0 && (
        <p className="flex flex-wrap gap-x-5 gap-y-1 text-[14px]">
          {ways.map((way) => (
            <span key={way.name} className="inline-flex items-center gap-2">
              <svg width="30" height="8" aria-hidden="true">
                <line
                  x1="0"
                  x2="30"
                  y1="4"
                  y2="4"
                  stroke={way.dashed ? "var(--soft)" : "var(--copper)"}
                  strokeWidth="2.5"
                  strokeDasharray={way.dashed ? "7 5" : undefined}
                />
              </svg>
              {way.name}
            </span>
          ))}
          <span className="text-soft">1 suction · 2 discharge · 3 liquid · 4 after the valve</span>
        </p>
      )}
    </div>
  );
}

type Frame = { cold: number; hot: number; least: number; most: number };

/** What is shown: the ways round with room about them, else the whole dome. */
function frameOf(domes: Dome[], ways: Way[]): Frame {
  const points = ways.flatMap((way) => way.points);
  const all = points.length ? points : domes.flatMap((dome) => [...dome.bubble, ...dome.dew]);
  if (!all.length) return { cold: 100e3, hot: 500e3, least: 1e5, most: 5e6 };
  const [j, pa] = [all.map((p) => p.enthalpy_j_kg), all.map((p) => p.pressure_pa)];
  const room = points.length ? AROUND : 1.1;
  const wide = (Math.max(...j) - Math.min(...j)) * (points.length ? 0.28 : 0.08);
  return {
    cold: Math.min(...j) - wide,
    hot: Math.max(...j) + wide,
    least: Math.min(...pa) / room,
    most: Math.max(...pa) * room,
  };
}

/** Names of the isotherms where they leave the dome's liquid side, or the frame. */
function Isotherms(props: {
  dome: Dome | undefined;
  x: (j: number) => number;
  y: (pa: number) => number;
  frame: Frame;
  corners: PhPoint[];
  system: System;
}) {
  const { dome, x, y, frame, corners, system } = props;
  const clear = (point: PhPoint) =>
    corners.every(
      (one) =>
        Math.hypot(x(one.enthalpy_j_kg) - x(point.enthalpy_j_kg) + 14, y(one.pressure_pa) - y(point.pressure_pa)) > 34,
    );
  const unit = unitFor("temperature", system);
  return (
    <g>
      {dome?.isotherms.map((one) => {
        const first = one.points[0];
        if (!first || first.pressure_pa > frame.most * 0.9 || first.pressure_pa < frame.least * 1.15) return null;
        if (!clear(first)) return null;
        if (first.enthalpy_j_kg < frame.cold || first.enthalpy_j_kg > frame.hot) return null;
        return (
          <text
            key={one.temperature_k}
            x={x(first.enthalpy_j_kg) - 4}
            y={y(first.pressure_pa) - 5}
            textAnchor="end"
            fontSize="13"
            style={{ fill: "var(--soft)" }}
          >
            {inUnit(one.temperature_k, "temperature", unit, 0)}°
          </text>
        );
      })}
    </g>
  );
}

function Corner({ x, y, number }: { x: number; y: number; number: number }) {
  if (!number) return <circle cx={x} cy={y} r="4" fill="var(--sheet)" stroke="var(--soft)" strokeWidth="2" />;
  return (
    <g>
      <circle cx={x} cy={y} r="10" fill="var(--sheet)" stroke="var(--copper)" strokeWidth="2" />
      <text x={x} y={y + 5} textAnchor="middle" fontSize="13" fontWeight="650">
        {number}
      </text>
    </g>
  );
}

function said(ways: Way[], system: System): string {
  const of = (way: Way) =>
    `${way.name}: ${way.points
      .map(
        (p, n) =>
          `${CORNERS[n]} ${show(p.pressure_pa, "pressure", system)}, ${show(p.temperature_k, "temperature", system)}`,
      )
      .join("; ")}`;
  return ways.length ? `Pressure over enthalpy. ${ways.map(of).join(". ")}` : "Pressure over enthalpy";
}
