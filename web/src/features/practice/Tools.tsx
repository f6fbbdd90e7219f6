import type { ReactNode } from "react";
import type { Seen } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { type Choice, Menu } from "./Menu.tsx";
import type { Touch } from "./useTouch.ts";

const CLEANED = {
  filter: "the air filter",
  outdoor_coil: "the outdoor coil, washed",
  indoor_coil: "the indoor coil, thawed and cleaned",
};
const FILLS = {
  us: ["50 psig", "150 psig", "300 psig", "450 psig"],
  si: ["300 kPa", "1000 kPa", "2000 kPa", "3000 kPa"],
};

/** What stands beside the unit: recovery machine, nitrogen, pump, and what hands do. */
export function Tools({ seen, touch }: { seen: Seen; touch: Touch }) {
  const { system } = useSession();
  const fills = FILLS[system === "si" ? "si" : "us"];
  const one = seen.van.find((cylinder) => cylinder.on_hose);
  const looked = seen.looks.filter((row) => row.seen);
  return (
    <div className="mt-1 flex flex-wrap gap-[6px] pb-1" data-testid="tools">
      <Tool
        name="Recovery"
        state={seen.recovering ? `to ${seen.hooked}` : "off"}
        on={seen.recovering}
        onPress={() => touch("recover", "", seen.recovering ? "off" : "on")}
      />
      <Tool
        name="Nitrogen"
        state={seen.nitrogen ? "in it" : "shut"}
        on={seen.nitrogen}
        choices={[
          ...fills.map((to) => ({ id: to, text: `Fill to ${to}`, onSelect: () => touch("nitrogen", "", to) })),
          { id: "off", text: "Let it down to the air", onSelect: () => touch("nitrogen", "", "off") },
        ]}
      />
      <Tool
        name="Pump"
        state={seen.pumping ? "pulling" : seen.emptied && !seen.nitrogen ? "valved off" : "off"}
        on={seen.pumping}
        onPress={() => touch("pump", "", seen.pumping ? "off" : "on")}
      />
      {(seen.running || seen.isolated.liquid === "shut") && (
        <Tool
          name="Isolate"
          state={isolatedAs(seen)}
          on={seen.isolated.liquid === "shut"}
          choices={
            seen.isolated.liquid === "shut"
              ? [
                  {
                    id: "suction",
                    text: seen.isolated.suction === "shut" ? "Open the suction valve" : "Shut the suction valve",
                    onSelect: () => touch("isolate", "suction", seen.isolated.suction === "shut" ? "open" : "shut"),
                  },
                  { id: "liquid", text: "Open the liquid valve", onSelect: () => touch("isolate", "liquid", "open") },
                ]
              : [
                  {
                    id: "liquid",
                    text: "Shut the liquid valve",
                    note: "the unit pumps itself down",
                    onSelect: () => touch("isolate", "liquid", "shut"),
                  },
                ]
          }
        />
      )}
      <Tool name="Purge" state="the hose" onPress={() => touch("purge")} />
      <Tool
        name="Clean"
        state="filter, coils"
        choices={Object.entries(CLEANED).map(([id, text]) => ({ id, text, onSelect: () => touch("clean", id) }))}
      />
      <Tool
        name="Look"
        state={looked.length ? `at ${looked.length} things` : "feel, try"}
        on={looked.length > 0}
        choices={seen.looks.map((row) => ({
          id: row.id,
          text: row.seen ? `${row.about}: ${row.seen}` : row.about,
          note: row.text,
          onSelect: () => touch("look", row.id),
        }))}
      />
      {one && (
        <>
          <Tool
            name="Turn it"
            state={seen.upside_down ? "upside down" : "upright"}
            onPress={() => touch("turn", "", seen.upside_down ? "upright" : "upside_down")}
          />
          <Tool
            name="Warm it"
            state={one.in_water ? "in the water" : "warm water"}
            on={one.in_water}
            onPress={() => touch("warm", "", one.in_water ? "air" : "water")}
          />
        </>
      )}
      {seen.heat_pump && (
        <Tool
          name="Mode"
          state={seen.switches.mode ?? "cooling"}
          onPress={() => touch("switch", "mode", seen.switches.mode === "heating" ? "cooling" : "heating")}
        />
      )}
    </div>
  );
}

/** How the unit's own service valves stand. */
function isolatedAs(seen: Seen): string {
  if (seen.isolated.liquid !== "shut") return "open";
  return seen.isolated.suction === "shut" ? "both shut" : "liquid shut";
}

function Tool({
  name,
  state,
  on = false,
  onPress,
  choices,
}: {
  name: string;
  state: string;
  on?: boolean;
  onPress?: () => void;
  choices?: Choice[];
}) {
  const face: ReactNode = (
    <button
      type="button"
      onClick={onPress}
      className={`min-h-[44px] rounded-[4px] border-[1.3px] px-[8px] py-1 text-left leading-[18px] ${on ? "border-copper bg-tint" : "border-edge"}`}
    >
      <span className="block text-[15px] font-semibold">{name}</span>
      <span className={`block text-[14px] ${on ? "text-copper" : "text-soft"}`}>{state}</span>
    </button>
  );
  return choices ? <Menu label={name} choices={choices} trigger={face} /> : face;
}
