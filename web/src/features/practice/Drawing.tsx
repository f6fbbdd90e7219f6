import type { KeyboardEvent } from "react";
import type { Seen, Units } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { lasting, show } from "../../format/quantity.ts";
import { Menu } from "./Menu.tsx";
import type { Touch } from "./useTouch.ts";
import { Hexagon, OPENINGS, openingsOf } from "./Valve.tsx";

export type Hands = { seen: Seen; touch: Touch; asked: ReadonlyMap<string, string> };
const [SUCTION_Y, LIQUID_Y, HOSE_X, TURN_Y, BOTTLE_X, VALVE_Y] = [50, 204, 436, 186, 628, 134];
/** Upright, the valve is on top and the hose comes round to it. */
const [ROUND_X, TOP_Y] = [702, 58];
const PORT_X = 262;
const SIDE_X = 366;

/** The unit at the left, the ports and the manifold in the middle, the cylinder on its scale at the right. */
export function Drawing({ seen, touch, asked }: Hands) {
  const { system } = useSession();
  const to = (valve: string) => asked.get(`valve ${valve}`) ?? seen.valves[valve] ?? "shut";
  const open = (valve: string) => (seen.valves[valve] ?? "shut") !== "shut";
  const fed = seen.hooked !== "" && open("cylinder");
  const low = fed && open("low_side");
  const high = fed && open("high_side") && !low;
  const scale = seen.shown.scale_kg;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing whose parts are pressed
    <svg
      viewBox="0 0 744 254"
      width="100%"
      className="max-h-[254px]"
      role="group"
      aria-label="The unit, the hoses and the cylinder"
    >
      <Plate seen={seen} touch={touch} asked={asked} />
      <Pipe d={`M206 ${SUCTION_Y}H${SIDE_X}`} full={open("suction_port")} colour="var(--low)" />
      <Pipe d={`M206 ${LIQUID_Y}H${SIDE_X}`} full={open("liquid_port")} colour="var(--high)" />
      <Pipe d={`M${SIDE_X} ${SUCTION_Y}H${HOSE_X}V${TURN_Y}`} full={low} colour="var(--line)" />
      <Pipe d={`M${SIDE_X} ${LIQUID_Y}H${HOSE_X}V${TURN_Y}`} full={high} colour="var(--line)" />
      <Pipe
        d={
          seen.upside_down || !seen.hooked
            ? `M${HOSE_X} ${TURN_Y}H${BOTTLE_X}V${VALVE_Y}`
            : `M${HOSE_X} ${TURN_Y}H${ROUND_X}V${TOP_Y}H${BOTTLE_X}`
        }
        full={fed}
        colour="var(--line)"
      />
      {Math.abs(seen.flow_kg_s) > 1e-6 && <Arrows low={low} out={seen.flow_kg_s > 0} upright={!seen.upside_down} />}
      <OneValve
        id="suction_port"
        label="suction port"
        x={PORT_X}
        y={SUCTION_Y}
        colour="var(--low)"
        {...{ to, touch, asked }}
        port
      />
      <OneValve
        id="low_side"
        label="low side"
        x={SIDE_X}
        y={SUCTION_Y}
        colour="var(--copper)"
        {...{ to, touch, asked }}
      />
      <OneValve
        id="liquid_port"
        label="liquid port"
        x={PORT_X}
        y={LIQUID_Y}
        colour="var(--high)"
        {...{ to, touch, asked }}
        port
        above
      />
      <OneValve
        id="high_side"
        label="high side"
        x={SIDE_X}
        y={LIQUID_Y}
        colour="var(--copper)"
        {...{ to, touch, asked }}
        above
      />
      <Bottle seen={seen} touch={touch} />
      {seen.hooked && (
        <>
          <OneValve
            id="cylinder"
            label="cylinder"
            x={BOTTLE_X}
            y={seen.upside_down ? VALVE_Y : TOP_Y}
            colour="var(--copper)"
            {...{ to, touch, asked }}
            upright={seen.upside_down}
            left={!seen.upside_down}
          />
          <text x={BOTTLE_X - 60} y="17" textAnchor="end" fontSize="14" style={{ fill: "var(--soft)" }}>
            scale
          </text>
          <rect x={BOTTLE_X - 52} y="0" width="104" height="25" rx="2" fill="var(--ink)" />
          <text x={BOTTLE_X} y="18" textAnchor="middle" fontSize="15" fontWeight="640" style={{ fill: "var(--sheet)" }}>
            {scale === null || scale === undefined ? "—" : show(scale, "mass", system)}
          </text>
        </>
      )}
    </svg>
  );
}

function Pipe({ d, full, colour }: { d: string; full: boolean; colour: string }) {
  return (
    <>
      <path d={d} fill="none" stroke={full ? colour : "var(--edge)"} strokeWidth="11" />
      <path d={d} fill="none" stroke={full ? "var(--tint2)" : "var(--paper)"} strokeWidth="8.4" />
    </>
  );
}

/** Which way it goes through the hose. */
function Arrows({ low, out, upright }: { low: boolean; out: boolean; upright: boolean }) {
  const y = low ? SUCTION_Y : LIQUID_Y;
  const places: [number, number, number][] = [
    [560, TURN_Y, out ? 180 : 0],
    [500, TURN_Y, out ? 180 : 0],
    [412, y, out ? 180 : 0],
    [312, y, out ? 180 : 0],
    ...(upright
      ? [[ROUND_X, 130, out ? 90 : -90] as [number, number, number]]
      : [[BOTTLE_X, 170, out ? 90 : -90] as [number, number, number]]),
  ];
  return (
    <g>
      {places.map(([x, at, turned]) => (
        <path
          key={`${x} ${at}`}
          d="M-3 -3.5L3 0-3 3.5"
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.8"
          transform={`translate(${x} ${at}) rotate(${turned})`}
        />
      ))}
    </g>
  );
}

type ValveProps = {
  id: string;
  label: string;
  x: number;
  y: number;
  colour: string;
  to: (valve: string) => string;
  touch: Touch;
  asked: ReadonlyMap<string, string>;
  port?: boolean;
  above?: boolean;
  upright?: boolean;
  left?: boolean;
};

/** A valve with its name and how it stands; pressed, it asks how it is to stand. */
function OneValve({ id, label, x, y, colour, to, touch, asked, port, above, upright, left }: ValveProps) {
  const stands = to(id);
  const beside = upright || left;
  const [nameX, nameY] = beside ? [x + (left ? -30 : 30), y - 4] : [x, y + (above ? -28 : 38)];
  const [wordX, wordY] = beside ? [nameX, y + 15] : [x, y + (above ? 38 : 55)];
  const anchor = beside ? (left ? "end" : "start") : "middle";
  return (
    <g>
      <Menu
        label={label}
        choices={openingsOf(id, stands, touch, port)}
        trigger={
          <Hexagon
            role="button"
            tabIndex={0}
            aria-label={`${label}, ${OPENINGS[stands] ?? stands}`}
            to={stands}
            pending={asked.has(`valve ${id}`)}
            upright={upright}
            colour={stands === "shut" ? "var(--ink)" : colour}
            transform={`translate(${x} ${y})`}
          />
        }
      />
      <text x={nameX} y={nameY} textAnchor={anchor} fontSize="14" fontWeight="620">
        {label}
      </text>
      <text
        x={wordX}
        y={wordY}
        textAnchor={anchor}
        fontSize="14"
        style={{ fill: stands === "cracked" ? "var(--copper)" : "var(--soft)" }}
      >
        {OPENINGS[stands] ?? stands}
      </text>
    </g>
  );
}

/** What can be done with the cylinders of the van: which one hangs on the hose, or none. */
export function cylinderChoices(seen: Seen, touch: Touch, system: Units) {
  return [
    ...seen.van.map((one) => ({
      id: one.code,
      text: `${one.code}, ${one.refrigerant}${one.recovery ? ", for recovery" : ""}`,
      note: `tare ${show(one.tare_kg, "mass", system)}, water ${show(one.water_capacity_kg, "mass", system)}${one.on_hose ? ", on the hose" : ""}`,
      chosen: one.on_hose,
      onSelect: () => touch("hook", "", one.code),
    })),
    ...(seen.hooked ? [{ id: "none", text: "Take it off the hose", onSelect: () => touch("hook", "", "") }] : []),
  ];
}

function Bottle({ seen, touch }: { seen: Seen; touch: Touch }) {
  const { system } = useSession();
  const one = seen.van.find((cylinder) => cylinder.on_hose);
  const beside = seen.upside_down ? 62 : -62;
  const shape = "M-54 -33h108v40c0 12-10 22-22 26h-64c-12-4-22-14-22-26z";
  return (
    <g transform={`translate(${BOTTLE_X} ${one && !seen.upside_down ? 118 : 66})`}>
      <Menu
        label="On the hose and the scale"
        choices={cylinderChoices(seen, touch, system)}
        trigger={
          // biome-ignore lint/a11y/useSemanticElements: a button inside a drawing
          <g
            role="button"
            tabIndex={0}
            aria-label={one ? `${one.code} ${one.refrigerant}, on the hose` : "no cylinder put one on the hose"}
            className="cursor-pointer"
          >
            <path
              d={shape}
              fill="var(--sheet)"
              stroke={one?.recovery ? "var(--low)" : "var(--ink)"}
              strokeWidth="1.7"
              strokeDasharray={one ? undefined : "5 4"}
              transform={one && !seen.upside_down ? "rotate(180)" : undefined}
            />
            <text y="-4" textAnchor="middle" fontSize={one ? "19" : "14"} fontWeight="640">
              {one ? one.code : "no cylinder"}
            </text>{" "}
            <text y="16" textAnchor="middle" fontSize="14">
              {one ? one.refrigerant : "put one on"}
            </text>
          </g>
        }
      />
      {one && (
        <text x="-62" y={seen.upside_down ? -8 : 12} fontSize="14" textAnchor="end" style={{ fill: "var(--soft)" }}>
          tare
          <tspan x="-62" dy="17" fontWeight="620" style={{ fill: "var(--ink)" }}>
            {show(one.tare_kg, "mass", system)}
          </tspan>
        </text>
      )}
      {one && (
        <text
          x={beside}
          y="-8"
          fontSize="14"
          textAnchor={seen.upside_down ? "start" : "end"}
          style={{ fill: "var(--soft)" }}
        >
          {seen.upside_down ? (
            <>
              hung
              <tspan x={beside} dy="17">
                upside
              </tspan>
              <tspan x={beside} dy="17">
                down
              </tspan>
            </>
          ) : (
            "upright"
          )}
          {one.in_water && (
            <tspan x={beside} dy="17" style={{ fill: "var(--copper)" }}>
              in warm water
            </tspan>
          )}
        </text>
      )}
    </g>
  );
}

export const SWITCHES: { id: string; name: string; steps: string[] }[] = [
  { id: "disconnect", name: "Disconnect", steps: ["on", "off"] },
  { id: "unit", name: "Thermostat", steps: ["on", "off"] },
  { id: "outdoor_fan", name: "Outdoor fan", steps: ["on", "off"] },
  { id: "indoor_fan", name: "Indoor fan", steps: ["high", "low", "off"] },
];

/** How a switch stands, in words. */
export function standsAs(seen: Seen, id: string): string {
  const to = seen.switches[id] ?? "off";
  if (id !== "unit") return to;
  return to === "on" ? `calls for ${seen.switches.mode === "heating" ? "heat" : "cooling"}` : "satisfied";
}

function Plate({ seen, touch, asked }: Hands) {
  return (
    <g>
      <rect x="0.8" y="0.8" width="205" height="252" rx="8" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.6" />
      {[10, 196].flatMap((x) =>
        [10, 243].map((y) => <circle key={`${x} ${y}`} cx={x} cy={y} r="4" fill="none" stroke="var(--ink)" />),
      )}
      <text x="22" y="36" fontSize="14" style={{ fill: "var(--soft)" }}>
        Compressor
      </text>
      <text x="22" y="54" fontSize="15.5" fontWeight="640" data-testid="compressor">
        {seen.running
          ? `running ${lasting(seen.for_s)}`
          : seen.for_s < 60
            ? "stopped"
            : `stopped ${lasting(seen.for_s)}`}
      </text>
      {SWITCHES.map(({ id, name, steps }, n) => {
        const y = 70 + n * 46;
        const now = asked.get(`switch ${id}`) ?? seen.switches[id] ?? "off";
        const next = steps[(steps.indexOf(now) + 1) % steps.length] ?? "off";
        const turn = () => touch("switch", id, next);
        const onKeyDown = (event: KeyboardEvent) => {
          if (event.key !== "Enter" && event.key !== " ") return;
          event.preventDefault();
          turn();
        };
        return (
          <g
            key={id}
            role="switch"
            tabIndex={0}
            aria-checked={now !== "off"}
            aria-label={`${name}: ${standsAs(seen, id)}`}
            onClick={turn}
            onKeyDown={onKeyDown}
            className="cursor-pointer"
          >
            <rect x="14" y={y - 8} width="180" height="46" fill="transparent" />
            <line x1="22" x2="186" y1={y - 6} y2={y - 6} stroke="var(--rule)" />
            <text x="22" y={y + 9} fontSize="14" style={{ fill: "var(--soft)" }}>
              {name}
            </text>
            <text x="22" y={y + 27} fontSize="15.5" fontWeight="640">
              {standsAs(seen, id)}
            </text>
            <rect
              x="148"
              y={y + 4}
              width="36"
              height="20"
              rx="10"
              fill={now === "off" ? "var(--sheet)" : "var(--ink)"}
              stroke="var(--ink)"
              strokeWidth="1.4"
            />
            <circle
              cx={now === "off" ? 158 : now === "low" ? 166 : 174}
              cy={y + 14}
              r="7"
              fill={now === "off" ? "var(--ink)" : "var(--sheet)"}
            />
          </g>
        );
      })}
    </g>
  );
}
