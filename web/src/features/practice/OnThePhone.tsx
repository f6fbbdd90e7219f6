import { useSession } from "../../app/session.ts";
import { lasting, show } from "../../format/quantity.ts";
import { cylinderChoices, type Hands, SWITCHES, standsAs } from "./Drawing.tsx";
import { Menu } from "./Menu.tsx";
import { Hexagon, OPENINGS, openingsOf } from "./Valve.tsx";

const VALVES: [string, string, boolean][] = [
  ["suction_port", "suction port", true],
  ["liquid_port", "liquid port", true],
  ["low_side", "low side", false],
  ["high_side", "high side", false],
  ["cylinder", "cylinder", false],
];

/** The same valves and switches under the thumb, without the pipes between them. */
export function OnThePhone({ seen, touch, asked }: Hands) {
  const { system } = useSession();
  const scale = seen.shown.scale_kg;
  return (
    <div className="mt-2">
      <div className="grid grid-cols-3 gap-x-2 gap-y-3 min-[420px]:grid-cols-5">
        {VALVES.filter(([id]) => id !== "cylinder" || seen.hooked).map(([id, label, port]) => {
          const stands = asked.get(`valve ${id}`) ?? seen.valves[id] ?? "shut";
          return (
            <Menu
              key={id}
              label={label}
              choices={openingsOf(id, stands, touch, port)}
              trigger={
                <button type="button" className="flex flex-col items-center leading-[18px]">
                  <svg width="60" height="54" viewBox="-25 -22 50 44" aria-hidden="true">
                    <Hexagon
                      to={stands}
                      pending={asked.has(`valve ${id}`)}
                      colour={stands === "shut" ? "var(--ink)" : "var(--copper)"}
                    />
                  </svg>
                  <span className="text-[15px] font-semibold">
                    {label}
                    <span className="sr-only">, </span>
                  </span>
                  <span className={`text-[14px] ${stands === "cracked" ? "text-copper" : "text-soft"}`}>
                    {OPENINGS[stands]}
                  </span>
                </button>
              }
            />
          );
        })}
      </div>
      <div className="mt-3 grid grid-cols-2 gap-2">
        <Menu
          label="On the hose and the scale"
          choices={cylinderChoices(seen, touch, system)}
          trigger={
            <button
              type="button"
              className="min-h-[54px] rounded-[4px] border-[1.3px] border-ink px-3 py-1 text-left leading-[19px]"
            >
              <span className="block text-[15px] font-semibold">
                {seen.hooked ? `Cylinder ${seen.hooked}` : "No cylinder on"}
              </span>
              <span className="block text-[14px] text-soft">
                {scale === null || scale === undefined ? "put one on the hose" : `scale ${show(scale, "mass", system)}`}
              </span>
            </button>
          }
        />
        <p className="min-h-[54px] px-1 py-1 leading-[19px]">
          <span className="block text-[14px] text-soft">Compressor</span>
          <b className="text-[15px]">{seen.running ? `running ${lasting(seen.for_s)}` : "stopped"}</b>
        </p>
        {SWITCHES.map(({ id, name, steps }) => {
          const now = asked.get(`switch ${id}`) ?? seen.switches[id] ?? "off";
          const next = steps[(steps.indexOf(now) + 1) % steps.length] ?? "off";
          return (
            <button
              key={id}
              type="button"
              role="switch"
              aria-checked={now !== "off"}
              onClick={() => touch("switch", id, next)}
              className="flex min-h-[54px] items-center justify-between gap-2 rounded-[4px] border-[1.3px] border-edge px-3 py-1 text-left leading-[19px]"
            >
              <span>
                <span className="block text-[14px] text-soft">{name}</span>
                <b className="text-[15px]">{standsAs(seen, id)}</b>
              </span>
              <svg width="38" height="22" viewBox="0 0 38 22" aria-hidden="true">
                <rect
                  x="1"
                  y="1"
                  width="36"
                  height="20"
                  rx="10"
                  fill={now === "off" ? "var(--sheet)" : "var(--ink)"}
                  stroke="var(--ink)"
                />
                <circle
                  cx={now === "off" ? 11 : 27}
                  cy="11"
                  r="7"
                  fill={now === "off" ? "var(--ink)" : "var(--sheet)"}
                />
              </svg>
            </button>
          );
        })}
      </div>
    </div>
  );
}
