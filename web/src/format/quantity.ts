/** Showing SI values to a person. Display only: units and factors are generated from the core. */
import forms from "../api/forms.gen.json";
import type { Amount, System } from "../api/types.ts";

type Unit = { symbol: string; factor: number; offset: number; decimals: number };
type Quantity = { us: string; si: string; units: Unit[] };
const QUANTITIES = forms.quantities as Record<string, Quantity>;
const MINUS = "−";

function unitOf(quantity: string, symbol: string): Unit {
  const unit = QUANTITIES[quantity]?.units.find((u) => u.symbol === symbol);
  if (!unit) throw new Error(`no unit ${symbol} of ${quantity}`);
  return unit;
}

/** SI units in one of a unit, for rulers. */
export function factorOf(quantity: string, symbol: string): number {
  return unitOf(quantity, symbol).factor;
}

/** How long something takes, as it is said: seconds, minutes up to two hours, hours up to three days, then days. */
export function lasting(seconds: number): string {
  const sign = seconds < 0 ? MINUS : "";
  const size = Math.abs(seconds);
  if (size >= 0.5 && size < 59.5) return `${sign}${size.toFixed(0)} s`;
  const minutes = Math.round(size / 60);
  if (minutes < 120) return `${minutes ? sign : ""}${minutes} min`;
  if (minutes < 72 * 60) {
    const rest = minutes % 60;
    return `${sign}${Math.floor(minutes / 60)} h${rest ? ` ${rest} min` : ""}`;
  }
  const days = size / 86_400;
  return `${sign}${days >= 10 ? days.toFixed(0) : days.toFixed(1).replace(/\.0$/, "")} days`;
}

/** SI values as numbers in one unit, for drawing. */
export function inUnits(values: number[], quantity: string, symbol: string): number[] {
  const { factor, offset } = unitOf(quantity, symbol);
  return values.map((value) => (value - offset) / factor);
}

/** The value as a number in one unit, with that unit's decimals. */
export function inUnit(value: number, quantity: string, symbol: string, decimals?: number): string {
  const unit = unitOf(quantity, symbol);
  return fixed((value - unit.offset) / unit.factor, decimals ?? unit.decimals);
}

function fixed(number: number, decimals: number): string {
  const text = number.toFixed(decimals);
  const bare = Number(text) === 0 ? text.replace("-", "") : text;
  return bare.replace("-", MINUS);
}

export type PoundsOunces = { sign: string; pounds: string; ounces: string };

/** Whole pounds and ounces, rounded as a whole so that ounces never read 16.0. */
export function poundsOunces(kg: number): PoundsOunces {
  const total = Number((Math.abs(kg) / unitOf("mass", "oz").factor).toFixed(1));
  const pounds = Math.floor(total / 16);
  return { sign: kg < 0 && total > 0 ? MINUS : "", pounds: String(pounds), ounces: (total - 16 * pounds).toFixed(1) };
}

/** The unit shown first for a quantity. */
export function unitFor(quantity: string, system: System): string {
  const found = QUANTITIES[quantity];
  if (!found) throw new Error(`no quantity ${quantity}`);
  return found[system === "si" ? "si" : "us"];
}

type Steps = [symbol: string, least: number][];
const TONNES: Steps = [
  ["t", 0.1],
  ["kg", 0],
];
const CLIMBS: Steps = [
  ["micron/min", 0.1],
  ["micron/h", 0.1],
  ["micron/day", 0],
];

/** Units from the fastest, each with the least it is said in: a large vessel climbs by the hour, a gross leak empties by the day. */
const BY_SIZE: Record<string, Record<"us" | "si", Steps>> = {
  vacuum_rate: { us: CLIMBS, si: CLIMBS },
  co2e: { us: TONNES, si: TONNES },
  mass_rate: {
    us: [
      ["oz/day", 10],
      ["oz/yr", 0],
    ],
    si: [
      ["g/day", 300],
      ["g/yr", 0],
    ],
  },
};

/** Two ends of a band stand in one unit, that of the larger. */
const LIKE_THE_LARGEST = new Set(["mass_rate"]);

/** A leak's size is known to two figures at best. */
const TWO_FIGURES = new Set(["mass_rate", "yearly_loss"]);

function shownUnit(value: number, quantity: string, system: System): string {
  const steps = BY_SIZE[quantity]?.[system === "si" ? "si" : "us"];
  if (!steps || value === 0) return unitFor(quantity, system);
  const fits = ([symbol, least]: Steps[number]) => Math.abs(value) / unitOf(quantity, symbol).factor >= least;
  return steps.find(fits)?.[0] ?? unitFor(quantity, system);
}

/** A value with its unit; `beside` is the value whose unit it shares. */
export function show(value: number, quantity: string, system: System, beside = value): string {
  if (system === "grams") {
    const shown = show(value, quantity, "us", beside);
    return quantity === "mass" ? `${inUnit(value, "mass", "g")} g (${shown})` : shown;
  }
  if (quantity === "mass" && system === "us") {
    const pound = unitOf("mass", "lb").factor;
    if (Math.abs(value) < pound) {
      const ounces = Math.abs(value) / unitOf("mass", "oz").factor;
      return `${inUnit(value, "mass", "oz", ounces > 0 && ounces < 0.095 ? 2 : 1)} oz`;
    }
    const { sign, pounds, ounces } = poundsOunces(value);
    return `${sign}${pounds} lb ${ounces} oz`;
  }
  if (quantity === "mass" && Math.abs(value) < 1) return `${inUnit(value, "mass", "g")} g`;
  if (quantity === "tube_od" && system === "us") return inches(value);
  if (quantity === "duration") return lasting(value);
  if (quantity === "oil_volume" && system === "us")
    return `${inUnit(value, quantity, "mL")} mL (${inUnit(value, quantity, "fl oz")} oz)`;
  const symbol = shownUnit(beside, quantity, system);
  if (TWO_FIGURES.has(quantity)) {
    const { factor, decimals } = unitOf(quantity, symbol);
    const number = Number((value / factor).toPrecision(2));
    const needed = number === 0 ? 0 : Math.max(0, 1 - Math.floor(Math.log10(Math.abs(number))));
    return `${fixed(number, Math.min(decimals, needed))} ${symbol}`;
  }
  return `${inUnit(value, quantity, symbol)} ${symbol}`.trim();
}

function inches(od: number): string {
  const sixteenths = (od / unitOf("tube_od", "in").factor) * 16;
  if (Math.abs(sixteenths - Math.round(sixteenths)) > 1e-6) return `${inUnit(od, "tube_od", "in")} in`;
  let top = Math.round(sixteenths);
  let bottom = 16;
  while (top % 2 === 0 && bottom > 1) {
    top /= 2;
    bottom /= 2;
  }
  const whole = Math.floor(top / bottom);
  const rest = top % bottom;
  if (rest === 0) return `${whole} in`;
  return whole ? `${whole}-${rest}/${bottom} in` : `${rest}/${bottom} in`;
}

const DIFFERENCES: Record<string, string> = {
  temperature: "temperature_delta",
  gauge_pressure: "gauge_pressure_delta",
};

/** An amount with ± at two standard uncertainties where it has one. */
export function showAmount(amount: Amount, system: System, among: Amount[] = []): string {
  const text = show(amount.value, amount.quantity, system, largest(amount, among));
  if (amount.u === null || amount.u === undefined) return text;
  return `${text} ${showSpread(amount, system)}`;
}

function largest(amount: Amount, among: Amount[]): number {
  if (!LIKE_THE_LARGEST.has(amount.quantity)) return amount.value;
  const values = among.filter((other) => other.quantity === amount.quantity).map((other) => other.value);
  return [amount.value, ...values].reduce((most, value) => (Math.abs(value) > Math.abs(most) ? value : most));
}

/** The ± alone. */
export function showSpread(amount: Amount, system: System): string {
  if (amount.u === null || amount.u === undefined) return "";
  if (amount.quantity === "mass" && system === "grams") return `± ${inUnit(2 * amount.u, "mass", "g")} g`;
  const other = DIFFERENCES[amount.quantity];
  if (other) return `± ${show(2 * amount.u, other, system)}`;
  return `± ${show(2 * amount.u, amount.quantity, system, amount.quantity in BY_SIZE ? amount.value : undefined)}`;
}

/** Every face of a mass but the one shown large. */
export function otherFaces(kg: number, system: System): string[] {
  const { sign, pounds, ounces } = poundsOunces(kg);
  const faces = {
    both: `${sign}${pounds} lb ${ounces} oz`,
    lb: `${inUnit(kg, "mass", "lb")} lb`,
    oz: `${inUnit(kg, "mass", "oz")} oz`,
    kg: `${inUnit(kg, "mass", "kg")} kg`,
  };
  if (system === "us") return [faces.lb, faces.oz, faces.kg];
  return system === "grams" ? [show(kg, "mass", "us"), faces.kg] : [faces.both, faces.lb, faces.oz];
}

/** How long ago, in words. */
export function ago(moment: string | number, now: number): string {
  const minutes = Math.floor((now - new Date(moment).getTime()) / 60_000);
  if (minutes < 1) return "just now";
  if (minutes < 60) return `${minutes} min ago`;
  if (minutes < 48 * 60) return `${Math.floor(minutes / 60)} h ago`;
  return `${Math.floor(minutes / 1440)} days ago`;
}

/** A day, short. */
export function day(moment: string | number): string {
  return new Date(moment).toLocaleDateString("en-GB", { weekday: "short", day: "numeric", month: "short" });
}

export { clock } from "./clock.ts";
