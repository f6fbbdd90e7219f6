import { scaleLinear, scaleLog } from "d3-scale";
import type { Debrief, RunSide } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { factorOf, inUnit, lasting, show, unitFor } from "../../format/quantity.ts";
import { useWide } from "../../ui/useWide.ts";
import { useWidth } from "../../ui/useWidth.ts";

const [RIGHT, CHARGE, HEAT, LANE] = [14, 190, 160, 64];
const DECADES = [13.3322, 66.661, 133.322, 1333.22, 101_325, 1e6, 2e6, 4e6];
const WORDS: Record<string, string> = { ran: "ran", in: "", out: "", pump: "pump", nitrogen: "nitrogen" };

type Way = { debrief: Debrief; at: number; onAt: (seconds: number) => void };

/** Both runs on one timeline: what was inside, what gauges and clamps said, what was done. The mark can be moved. */
export function Timeline({ debrief, at, onAt }: Way) {
  const { system } = useSession();
  const [box, width] = useWidth(860);
  const wide = useWide();
  const left = wide ? 96 : 58;
  const { person, careful } = debrief;
  const last = Math.max(person.took_s, careful.took_s, 60) * 1.04;
  const x = scaleLinear([0, last], [left, Math.max(width - RIGHT, left + 50)]);
  const spoken = debrief.metering === "txv" ? "subcooling" : "superheat";
  const read = [...person.track[`${spoken}_k`], ...careful.track[`${spoken}_k`]].some((value) => value !== null);
  const open = [...person.track.pressure_pa, ...careful.track.pressure_pa].some((value) => value !== null);
  const lanes = CHARGE + (read ? HEAT : 0) + (open ? HEAT : 0) + 30;
  const height = lanes + LANE * 2 + 8;
  const minutes = scaleLinear([0, last / 60], [0, 1])
    .ticks(wide ? 7 : 4)
    .map((minute) => minute * 60);
  const move = (event: { clientX: number; currentTarget: Element }) => {
    const frame = event.currentTarget.getBoundingClientRect();
    onAt(Math.min(Math.max(x.invert(event.clientX - frame.left), 0), last));
  };
  return (
    <div ref={box} className="mt-3">
      <p className="flex flex-wrap gap-x-6 text-[14px]">
        <Key line={<line x2="26" y1="5" y2="5" x1="0" stroke="var(--copper)" strokeWidth="3" />}>you</Key>
        <Key line={<line x2="26" y1="5" y2="5" x1="0" stroke="var(--ink)" strokeWidth="2" strokeDasharray="5 4" />}>
          a careful technician, same unit, same instruments
        </Key>
        <Key line={<rect width="26" height="10" fill="var(--holdtint)" stroke="var(--holds)" />}>inside the marks</Key>
      </p>
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`You: ${lasting(person.took_s)}, ${show(person.off_kg, "mass", system)} off. Careful: ${lasting(careful.took_s)}, ${show(careful.off_kg, "mass", system)} off.`}
        data-testid="timeline"
        onPointerDown={move}
        onPointerMove={(event) => event.buttons === 1 && move(event)}
        className="touch-pan-y select-none"
      >
        {minutes.map((second) => (
          <g key={second}>
            <line x1={x(second)} x2={x(second)} y1="22" y2="32" stroke="var(--edge)" />
            <text x={x(second)} y="16" fontSize="14" textAnchor="middle" style={{ fill: "var(--soft)" }}>
              {second === 0 ? "0 min" : (second / 60).toFixed(0)}
            </text>
          </g>
        ))}
        <Charge {...{ debrief, x, left, system, top: 34, right: width - RIGHT }} />
        {read && <Heat {...{ debrief, x, left, system, spoken, top: 34 + CHARGE, right: width - RIGHT }} />}
        {open && (
          <Pressure {...{ debrief, x, left, system, top: 34 + CHARGE + (read ? HEAT : 0), right: width - RIGHT }} />
        )}
        <Lane
          side={person}
          name={wide ? "You did" : "you"}
          y={lanes + 12}
          x={x}
          left={left}
          system={system}
          colour="var(--copper)"
          settle={debrief.settle_s}
        />
        <Lane
          side={careful}
          name={wide ? "Careful did" : "careful"}
          y={lanes + 12 + LANE}
          x={x}
          left={left}
          system={system}
          colour="var(--ink)"
          settle={debrief.settle_s}
        />
        <line x1={x(at)} x2={x(at)} y1="26" y2={height} stroke="var(--ink)" strokeWidth="1.6" />
        <path d={`M${x(at) - 9} 22h18v8l-9 8-9-8z`} fill="var(--ink)" />
      </svg>
      <input
        type="range"
        className="w-full accent-[var(--copper)]"
        aria-label="Moment looked at"
        aria-valuetext={lasting(at)}
        min="0"
        max={Math.round(last)}
        step="10"
        value={Math.round(at)}
        onChange={(event) => onAt(Number(event.target.value))}
      />
    </div>
  );
}

function Key({ line, children }: { line: React.ReactNode; children: React.ReactNode }) {
  return (
    <span className="flex items-center gap-2">
      <svg width="26" height="10" aria-hidden="true">
        {line}
      </svg>
      {children}
    </span>
  );
}

type Scale = (value: number) => number;
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

function Charge({ debrief, x, left, top, right, system }: Frame) {
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
      <path
        d={path(careful.track.times_s, careful.track.inside_kg, x, y)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.8"
        strokeDasharray="6 4"
      />
      <path
        d={path(person.track.times_s, person.track.inside_kg, x, y)}
        fill="none"
        stroke="var(--copper)"
        strokeWidth="2.8"
      />
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

function Heat({ debrief, x, left, top, right, system, spoken }: Frame & { spoken: "superheat" | "subcooling" }) {
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
      <path
        d={path(careful.track.times_s, its, x, y)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.6"
        strokeDasharray="6 4"
      />
      <path d={path(person.track.times_s, mine, x, y)} fill="none" stroke="var(--copper)" strokeWidth="2.6" />
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
function Pressure({ debrief, x, left, top, right, system }: Frame) {
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
      <path
        d={path(careful.track.times_s, careful.track.pressure_pa, x, y)}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.6"
        strokeDasharray="6 4"
      />
      <path
        d={path(person.track.times_s, person.track.pressure_pa, x, y)}
        fill="none"
        stroke="var(--copper)"
        strokeWidth="2.6"
      />
    </g>
  );
}

function Lane({
  side,
  name,
  y,
  x,
  left,
  system,
  colour,
  settle,
}: {
  side: RunSide;
  name: string;
  y: number;
  x: Scale;
  left: number;
  system: "us" | "si";
  colour: string;
  settle: number;
}) {
  const moved = side.spans.filter((span) => span.what === "in" || span.what === "out");
  return (
    <g>
      <text x="0" y={y + 19} fontSize="15" fontWeight="620" style={{ fill: colour }}>
        {name}
      </text>
      <line x1={left} x2={x(side.took_s)} y1={y + 14} y2={y + 14} stroke="var(--rule)" />
      {side.spans
        .filter((span) => span.what === "ran" || span.what === "pump" || span.what === "nitrogen")
        .map((span) => (
          <g key={`${span.what} ${span.from_s}`}>
            <rect
              x={x(span.from_s)}
              y={y + 2}
              width={Math.max(x(span.to_s) - x(span.from_s), 1)}
              height="24"
              fill={span.what === "ran" ? "var(--tint)" : "var(--lowtint)"}
              stroke="var(--ink)"
            />
            {x(span.to_s) - x(span.from_s) > 92 &&
              !moved.some((one) => x(one.to_s) > x(span.from_s) && x(one.from_s) < x(span.from_s) + 92) && (
                <text x={x(span.from_s) + 6} y={y + 19} fontSize="14">
                  {WORDS[span.what]} {lasting(span.to_s - span.from_s)}
                </text>
              )}
          </g>
        ))}
      {moved.map((span) => (
        <g key={`${span.what} ${span.from_s}`}>
          <rect
            x={x(span.from_s)}
            y={y - 2}
            width={Math.max(x(span.to_s) - x(span.from_s), 4)}
            height="32"
            fill={colour}
          />
          <text
            x={(x(span.from_s) + x(span.to_s)) / 2}
            y={y + 46}
            fontSize="14"
            fontWeight="640"
            textAnchor="middle"
            style={{ fill: colour }}
          >
            {span.mass_kg > 0 ? "+" : "−"} {show(Math.abs(span.mass_kg), "mass", system)}
          </text>
        </g>
      ))}
      {side.moments
        .filter((one) => one.too_soon && one.left_alone_s < settle)
        .map((one) => (
          <g key={one.time_s}>
            <rect
              x={x(one.time_s - Math.max(one.left_alone_s, 0))}
              y={y + 2}
              width={Math.max(x(one.time_s) - x(one.time_s - one.left_alone_s), 3)}
              height="24"
              fill="none"
              stroke="var(--stop)"
              strokeWidth="1.8"
              strokeDasharray="3 2"
            />
            <text
              x={x(one.time_s)}
              y={y - 6}
              fontSize="14"
              fontWeight="640"
              textAnchor="middle"
              style={{ fill: "var(--stop)" }}
            >
              only {lasting(one.left_alone_s)}
            </text>
          </g>
        ))}
    </g>
  );
}
