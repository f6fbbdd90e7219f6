/** Sentences as a person reads them: templates of the core with amounts and words put in. The same rules as the core's own. */
import type { Amount, Label, Message, Named, System } from "../api/types.ts";
import { showAmount } from "./quantity.ts";

const NAME = /\{(\w+)(?::(\w+))?\}/g;
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

type Names = Record<string, Amount | Named>;

/** A message with its amounts and words filled in; what was kept before words were has none. */
export function fill(message: Message, system: System): string {
  return filled(message, system, {});
}

/** A label by itself, or one with something of this job in it. */
export function worded(label: Label, system: System): string {
  return typeof label === "string" ? label : fill(label, system);
}

/** Labels in a row: “a, b and c”. */
export function listed(labels: Label[], system: System): string {
  return fill({ text: "{all}", amounts: {}, words: { all: labels } }, system);
}

function filled(message: Message, system: System, around: Names): string {
  const names: Names = { ...around, ...(message.words ?? {}), ...(message.amounts ?? {}) };
  const among = Object.values(names).filter(isAmount);
  return message.text.replace(NAME, (whole, name: string, way?: string) => {
    const one = names[name];
    if (one === undefined) return whole;
    if (isAmount(one)) return showAmount(one, system, among);
    const { [name]: _, ...rest } = names;
    const shown = said(one, way, (inner) => filled(inner, system, rest));
    return way === "cap" ? shown.slice(0, 1).toUpperCase() + shown.slice(1) : shown;
  });
}

function said(one: Named, way: string | undefined, show: (message: Message) => string): string {
  if (Array.isArray(one)) {
    const each = one.map((item) => said(item, undefined, show));
    return way === "list" ? each.join(", ") : inARow(each, way === "or" ? "or" : "and");
  }
  if (typeof one !== "string") return show(one);
  if (way !== "day") return one;
  const [year, month, day] = one.slice(0, 10).split("-");
  return `${day} ${MONTHS[Number(month) - 1]} ${year}`;
}

function inARow(names: string[], last: "and" | "or"): string {
  return names.length > 1 ? `${names.slice(0, -1).join(", ")} ${last} ${names[names.length - 1]}` : (names[0] ?? "");
}

function isAmount(one: Amount | Named): one is Amount {
  return typeof one === "object" && !Array.isArray(one) && "quantity" in one;
}
