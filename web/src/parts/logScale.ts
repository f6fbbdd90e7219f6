import { scaleLinear, scaleLog, scaleTime } from "d3-scale";
import type { Chart, Curve, System } from "../api/types.ts";
import { inUnit, unitFor } from "../format/quantity.ts";

export const LEFT = 58;

export const RIGHT = 14;

export const TOP = 26;

export const BOTTOM = 30;

export const DASHED: Record<string, string> = { leak: "8 5", expected: "3 4", metal: "3 4" };

export const FEW = 40;

export type Scale = { x: (second: number) => number; y: (value: number) => number };

export function range(chart: Chart): { low: number; high: number } {
  const seen = chart.curves.flatMap((curve) =>
    curve.id === "both" ? [] : curve.values.filter((value) => !chart.logarithmic || value > 0),
  );
  const all = chart.limit ? [...seen, chart.limit.value] : seen;
  const low = Math.min(...all);
  const high = Math.max(...all);
  if (chart.logarithmic) return { low: low / 1.12, high: high * 1.12 };
  const room = Math.max((high - low) * 0.15, (chart.band?.value ?? 0) * 1.3, Math.abs(high) * 0.002);
  return { low: low - room, high: high + room };
}

/** Marks on a scale of values: even steps, or 1, 2, 5 of every decade, as many as are read easily. */
export function valueTicks(low: number, high: number, factor: number, logarithmic: boolean): number[] {
  const [from, to] = [low / factor, high / factor];
  const decades = logarithmic ? Math.log10(to / from) : 0;
  if (decades < 0.9) return backTo(scaleLinear([from, to], [0, 1]).ticks(6), factor);
  const first = decades > 2.2 ? ["1"] : ["1", "2", "5"];
  const every = scaleLog([from, to], [0, 1]).ticks(9 * Math.ceil(decades + 1));
  return backTo(
    every.filter((tick) => first.includes(tick.toExponential(0)[0] ?? "")),
    factor,
  );
}

function backTo(ticks: number[], factor: number): number[] {
  return ticks.map((tick) => tick * factor);
}

/** Round moments of the clock, as seconds after the log's start. */
export function timeTicks(chart: Chart, until: number, width: number): number[] {
  const begin = new Date(chart.starts_at).getTime();
  const moments = scaleTime([begin, begin + until * 1000], [0, 1]).ticks(Math.max(2, Math.floor(width / 110)));
  return moments.map((moment) => (moment.getTime() - begin) / 1000);
}

export function line(curve: Curve, { x, y }: Scale): string {
  return curve.seconds
    .map((second, n) => `${n ? "L" : "M"}${x(second).toFixed(1)} ${y(curve.values[n] ?? 0).toFixed(1)}`)
    .join("");
}

export function spoken(chart: Chart, symbol: string, system: System): string {
  const measured = chart.curves.find((curve) => curve.id === "measured");
  const said = (value: number | undefined) =>
    value === undefined ? "nothing" : `${inUnit(value, chart.quantity, unitFor(chart.quantity, system))} ${symbol}`;
  const limit = chart.limit ? `, limit ${said(chart.limit.value)}` : "";
  return `${chart.title}: from ${said(measured?.values[0])} to ${said(measured?.values[measured.values.length - 1])}${limit}`;
}
