import type { Chart, Curve, System } from "../api/types.ts";
import { inUnit, unitFor } from "../format/quantity.ts";

export const LEFT = 58;

export const RIGHT = 14;

export const TOP = 26;

export const BOTTOM = 30;

const STEPS_S = [10, 30, 60, 120, 300, 600, 900, 1800, 3600, 7200, 14400, 28800, 86400];

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

/** Marks on a scale of values: 1, 2, 5 of every decade, or even steps. */
export function valueTicks(low: number, high: number, factor: number, logarithmic: boolean): number[] {
  const [from, to] = [low / factor, high / factor];
  if (logarithmic) {
    const decades = Math.log10(to / from);
    const parts = decades > 2.2 ? [1] : decades > 0.9 ? [1, 2, 5] : [1, 1.5, 2, 3, 4, 5, 6, 7, 8, 9];
    const ticks = [];
    for (let power = Math.floor(Math.log10(from)); power <= Math.ceil(Math.log10(to)); power++) {
      for (const part of parts) ticks.push(part * 10 ** power);
    }
    return ticks.filter((tick) => tick >= from && tick <= to).map((tick) => tick * factor);
  }
  const raw = (to - from) / 5;
  const size = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 5, 10].map((part) => part * size).find((candidate) => candidate >= raw) ?? raw;
  const ticks = [];
  for (let tick = Math.ceil(from / step) * step; tick <= to; tick += step) ticks.push(tick * factor);
  return ticks;
}

export function timeTicks(chart: Chart, until: number, width: number): number[] {
  const most = Math.max(2, Math.floor(width / 90));
  const step = STEPS_S.find((candidate) => until / candidate <= most) ?? 86400 * Math.ceil(until / 86400 / most);
  const begin = new Date(chart.starts_at).getTime() / 1000;
  const ticks = [];
  for (let second = Math.ceil(begin / step) * step - begin; second <= until; second += step) ticks.push(second);
  return ticks;
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
