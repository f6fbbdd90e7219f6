/** An exercise's file as it is edited: plain data, checked by the server. */
export type Plain = Record<string, unknown>;

/** What can be wrong with a unit, as its file names it, in words, and how it is written. */
export const FAULTS: [string, string, string][] = [
  ["charge_share", "charge inside, of what belongs", "0.85"],
  ["low_airflow", "indoor air missing", "0.4"],
  ["dirty_condenser", "outdoor coil blocked", "0.5"],
  ["liquid_restriction", "liquid line blocked", "0.7"],
  ["non_condensables", "air in it", "0.5"],
  ["valve_starving", "valve starves", "0.3"],
  ["valve_flooding", "valve floods", "0.6"],
  ["orifice_scale", "orifice, of the right area", "0.85"],
  ["compressor_leak", "compressor leaks inside", "0.3"],
  ["reversing_leak", "reversing valve leaks", "0.15"],
];

/** An object under a key; an empty one where there is none. */
export const part = (plain: Plain, name: string): Plain => {
  const found = plain[name];
  return found && typeof found === "object" && !Array.isArray(found) ? (found as Plain) : {};
};

/** A value as it is typed. */
export const text = (plain: Plain, key: string): string => {
  const value = plain[key];
  return value === undefined || value === null ? "" : Array.isArray(value) ? value.join(" to ") : String(value);
};

/** The same with another value in one of its objects; an empty one is left away. */
export function withPart(plain: Plain, name: string, key: string, value: unknown): Plain {
  const { [key]: _, ...rest } = part(plain, name);
  return { ...plain, [name]: value === "" || value === undefined ? rest : { ...rest, [key]: value } };
}
