/** In which order what waits may go: nothing waits behind what it does not need. */
import { newKey } from "../api/client.ts";
import type { Item, SentEntry } from "./items.ts";

/** What closes or ends, and so waits for a choice between two answers. */
export const FOR_CHOICE: ReadonlySet<string> = new Set(["close", "leave_out", "end_visit"]);

export const entriesOf = ({ what }: Item): SentEntry[] => (what.kind === "entries" ? what.entries : []);
export const isAct = ({ what }: Item): boolean => what.kind === "act" || what.kind === "make";

/** What closes or ends waits while a field that was sent before it has two answers, or a refused one. */
export function waitsForChoice({ what }: Item, held: string[]): boolean {
  return held.length > 0 && what.kind === "act" && FOR_CHOICE.has(what.act.act);
}

/**
 * The next that may go; `passed` have to wait this time round. Entries of one field keep their order. An act waits for all
 * before it, and all wait for an act, except for one that waits for a choice: there the choice has to pass it.
 */
export function nextOf(items: Item[], held: string[], passed: Set<string>): Item | undefined {
  const paths = new Set<string>();
  let behindChoice = false;
  for (const item of items) {
    if (item.problem && item.what.kind === "make") return undefined; // of a job the office does not have nothing can be sent
    if (item.problem) continue;
    if (isAct(item)) {
      if (waitsForChoice(item, held)) behindChoice = true;
      else if (passed.size) return undefined;
      else if (!behindChoice) return item;
      continue;
    }
    const behind = entriesOf(item).some((entry) => paths.has(entry.path));
    if (!passed.has(item.key) && !behind) return item;
    for (const entry of entriesOf(item)) paths.add(entry.path);
  }
  return undefined;
}

/** What waits behind an entry of the same field was typed over what the server has just stored of it. */
export function seeing(item: Item, accepted: Record<string, unknown>): Item {
  if (item.what.kind !== "entries" || !item.what.entries.some((entry) => entry.path in accepted)) return item;
  const entries = item.what.entries.map((entry) =>
    entry.path in accepted ? { ...entry, seen: accepted[entry.path] ?? null } : entry,
  );
  return { ...item, what: { kind: "entries", entries } };
}

/** A batch as two, each under a key of its own. */
export function halvesOf(item: Item): Item[] {
  const entries = entriesOf(item);
  const middle = Math.ceil(entries.length / 2);
  return [entries.slice(0, middle), entries.slice(middle)].map((half, n) => ({
    ...item,
    key: newKey(),
    at: item.at + n / 1000,
    until: 0,
    what: { kind: "entries", entries: half },
  }));
}
