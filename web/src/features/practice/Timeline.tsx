import { scaleLinear } from "d3-scale";
import type { Debrief } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { lasting, show } from "../../format/quantity.ts";
import { useWide } from "../../ui/useWide.ts";
import { useWidth } from "../../ui/useWidth.ts";
import { LANE, Lane } from "./Lane.tsx";
import { CHARGE, Charge, HEAT, Heat, Pressure } from "./Tracks.tsx";

const RIGHT = 14;

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
