/** Where a step puts what an instrument says: fields of its sheet by channel. */
import { type CaptureFacts, factsOf, type StepName, stepFacts } from "../../api/fields.ts";
import type { System } from "../../api/types.ts";
import { nextKey } from "../../fields/Readings.tsx";
import { inUnit, show, unitFor } from "../../format/quantity.ts";
import type { Live, LiveValues } from "../../job/live.ts";

type Sheet = Record<string, unknown>;
type Rows = Record<string, Record<string, unknown>>;
export type Capture = { keys: string[]; value: unknown };

/** An instrument's value as a person would type it, with its ± and that it was measured. */
export function measured(live: Live, quantity: string, system: System): Record<string, unknown> {
  const unit = unitFor(quantity, system);
  const text = textOf(live.value, quantity, unit, system);
  const source = quantity === "mass" ? "weighed" : "measured";
  return { text: text.replace("−", "-"), unit, source, limit: live.limit };
}

function textOf(value: number, quantity: string, unit: string, system: System): string {
  if (quantity !== "mass") return `${inUnit(value, quantity, unit)} ${unit}`;
  return system === "grams" ? `${inUnit(value, "mass", "g", 1)} g` : show(value, "mass", system);
}

/** The entries one capture makes; none where the step takes nothing of what is there. */
export function captures(step: StepName, sheet: Sheet, live: LiveValues, system: System): Capture[] {
  const facts = stepFacts(step).capture;
  if (!facts) return [];
  const rows = (sheet[facts.record] as Rows) ?? {};
  const taken = facts.fields.flatMap(({ field, channels }) => {
    const reading = live[channels.find((name) => live[name]) ?? ""];
    return reading ? [{ field, reading }] : [];
  });
  const entry = (keys: string[], reading: Live): Capture => ({
    keys,
    value: measured(reading, factsOf(step, keys).quantity, system),
  });
  if (facts.way === "sheet") return taken.map(({ field, reading }) => entry([field], reading));
  if (facts.way === "scale") {
    const [before, after] = facts.fields.map(({ field }) => field) as [string, string];
    const key = onTheScale(rows, facts, after);
    const found = taken.find(({ field }) => field === (rows[key]?.[before] ? after : before));
    return found ? [entry([facts.record, key, found.field], found.reading)] : [];
  }
  const at = taken[0]?.reading.at;
  if (!at) return [];
  const key = facts.way === "unread_row" ? unreadRow(rows, facts) : nextKey(Object.keys(rows), facts.row);
  const found = taken.map(({ field, reading }) => entry([facts.record, key, field], reading));
  const moment = { keys: [facts.record, key, "at"], value: at };
  return facts.way === "new_row" ? [moment, ...found] : [...found, moment];
}

/** The row whose scale is read: the first without its end where that counts, else the last. */
function onTheScale(rows: Rows, facts: CaptureFacts, after: string): string {
  const keys = Object.keys(rows);
  const open = facts.first_open ? keys.find((row) => !rows[row]?.[after]) : undefined;
  return open ?? keys.at(-1) ?? `${facts.row}1`;
}

/** The last row while nothing of it was read, else a new one. */
function unreadRow(rows: Rows, facts: CaptureFacts): string {
  const last = Object.keys(rows).at(-1);
  const unread = last && facts.begun.every((field) => !rows[last]?.[field]);
  return unread ? last : nextKey(Object.keys(rows), facts.row);
}
