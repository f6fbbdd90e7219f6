/** Where a step puts what an instrument says: fields of its sheet by channel. */
import { factsOf, type StepName } from "../../api/fields.ts";
import type { System } from "../../api/types.ts";
import { inUnit, show, unitFor } from "../../format/quantity.ts";
import { nextKey } from "../../parts/Readings.tsx";
import type { Live, LiveValues } from "./live.ts";

type Sheet = Record<string, unknown>;
type Rows = Record<string, Record<string, unknown>>;
export type Capture = { keys: string[]; value: unknown };

const AS_FOUND = [
  "suction_pressure",
  "liquid_pressure",
  "suction_line",
  "liquid_line",
  "return_air",
  "return_wet_bulb",
  "supply",
  "outdoor",
];
const VERIFY = [
  "suction_pressure",
  "suction_line",
  "liquid_pressure",
  "liquid_line",
  "return_air",
  "return_wet_bulb",
  "supply",
  "outdoor",
];
const HOLD: [string, string[]][] = [
  ["pressure", ["liquid_pressure", "suction_pressure"]],
  ["metal", ["metal", "liquid_line", "suction_line"]],
];
const PULL: [string, string[]][] = [
  ["vacuum", ["vacuum"]],
  ["second", ["second_vacuum"]],
];

/** What the channels of a step are, for the strip to show first. */
export function channelsOf(step: StepName): string[] {
  if (step === "as_found" || step === "identify" || step === "plan_change" || step === "leak_search") return AS_FOUND;
  if (step === "verify" || step === "close_out") return VERIFY;
  if (step === "recover") return ["scale", "recovery_pressure"];
  if (step === "weigh_in") return ["scale"];
  return (step === "evacuate" ? PULL : HOLD).flatMap(([, channels]) => channels);
}

/** An instrument's value as a person would type it, with its ± and that it was measured. */
export function measured(live: Live, quantity: string, system: System): Record<string, unknown> {
  const unit = unitFor(quantity, system);
  const text = quantity === "mass" ? show(live.value, "mass", system) : `${inUnit(live.value, quantity, unit)} ${unit}`;
  const source = quantity === "mass" ? "weighed" : "measured";
  return { text: text.replace("−", "-"), unit, source, limit: live.limit };
}

/** The entries one capture makes; none where the step takes nothing of what is there. */
export function captures(step: StepName, sheet: Sheet, live: LiveValues, system: System): Capture[] {
  const one = (keys: string[], channel: string): Capture[] => {
    const reading = live[channel];
    return reading ? [{ keys, value: measured(reading, factsOf(step, keys).quantity, system) }] : [];
  };
  const row = (record: string, fields: [string, string[]][]): Capture[] => {
    const key = nextKey(Object.keys((sheet[record] as Rows) ?? {}), "r");
    const found = fields.flatMap(([field, channels]) => {
      const channel = channels.find((name) => live[name]);
      return channel ? one([record, key, field], channel).map((capture) => ({ capture, at: live[channel]?.at })) : [];
    });
    const at = found[0]?.at;
    return at ? [{ keys: [record, key, "at"], value: at }, ...found.map(({ capture }) => capture)] : [];
  };
  if (step === "as_found") return AS_FOUND.flatMap((channel) => one([channel], channel));
  if (step === "verify") {
    const readings = (sheet.readings as Rows) ?? {};
    const last = Object.keys(readings).at(-1);
    const key =
      last && !readings[last]?.suction_pressure && !readings[last]?.liquid_pressure
        ? last
        : nextKey(Object.keys(readings), "r");
    const found = VERIFY.flatMap((channel) => one(["readings", key, channel], channel));
    const at = live[VERIFY.find((channel) => live[channel]) ?? ""]?.at;
    return at ? [...found, { keys: ["readings", key, "at"], value: at }] : found;
  }
  if (step === "pressure_hold") return row("readings", HOLD);
  if (step === "evacuate") return row("readings", PULL);
  if (step === "weigh_in") {
    const rows = (sheet.draws as Rows) ?? {};
    const key = Object.keys(rows).find((row) => !rows[row]?.gross_end) ?? Object.keys(rows).at(-1) ?? "d1";
    return one(["draws", key, rows[key]?.gross_start ? "gross_end" : "gross_start"], "scale");
  }
  if (step === "recover") {
    const rows = (sheet.cylinders as Rows) ?? {};
    const key = Object.keys(rows).at(-1) ?? "c1";
    return one(["cylinders", key, rows[key]?.gross_start ? "gross_now" : "gross_start"], "scale");
  }
  return [];
}
