/** A job's log put in columns for drawing: one quantity at a time, in the person's unit. */
import uPlot from "uplot";
import type { LogColumns, System } from "../../api/types.ts";
import { inUnits, unitFor } from "../../format/quantity.ts";

export type Drawn = { labels: string[]; unit: string; data: uPlot.AlignedData; rows: number };

/** What can be drawn, in the order the log has it. */
export function quantitiesOf(log: LogColumns): string[] {
  return [...new Set(log.channels.map((channel) => channel.quantity))];
}

/** Every channel of a quantity over one column of moments, in seconds since 1970. */
export function drawn(log: LogColumns, quantity: string, system: System): Drawn {
  const begins = new Date(log.starts_at ?? 0).getTime() / 1000;
  const channels = log.channels.filter((channel) => channel.quantity === quantity);
  const unit = unitFor(quantity, system);
  const tables = channels.map(
    (channel): uPlot.AlignedData => [
      channel.seconds.map((second) => begins + second),
      inUnits(channel.values, quantity, unit),
    ],
  );
  return {
    labels: channels.map((channel) => channel.label),
    unit,
    data: tables.length === 1 && tables[0] ? tables[0] : uPlot.join(tables),
    rows: channels.reduce((sum, channel) => sum + channel.values.length, 0),
  };
}

export type Range = { min: number; max: number };

/** A range moved by a share of its width, or made wider or narrower about its middle, kept inside the log. */
export function moved(range: Range, whole: Range, by: number, times = 1): Range {
  const width = Math.min((range.max - range.min) * times, whole.max - whole.min);
  const middle = (range.min + range.max) / 2 + by * (range.max - range.min);
  const min = Math.min(Math.max(middle - width / 2, whole.min), whole.max - width);
  return { min, max: min + width };
}
