/** What becomes of fields still being typed: made into batches, and brought in line with what was said of a batch. */
import { newKey } from "../api/client.ts";
import type { JobSaved, Problem } from "../api/types.ts";
import { blank, type Draft, type Item, type SentEntry, typedAt } from "./items.ts";

export type Drafts = Record<string, Draft>;
/** A field whose row is to be kept as it is now, or taken away. */
export type Done = { path: string; keep: Draft | null }[];

const AT_ONCE = 150; // the server takes 200 in one request; the rest follows

/** Fields as items, at most so many entries each; `later` gives each its place behind the others. */
export function batchesOf(code: string, drafts: Draft[], later: () => number): Item[] {
  const items: Item[] = [];
  for (let from = 0; from < drafts.length; from += AT_ONCE) {
    const entries = drafts.slice(from, from + AT_ONCE).map((draft) => {
      const { path, seen, value, force, stamp } = draft;
      return { path, seen, value, force, stamp, ...typedAt(draft) };
    });
    items.push({ ...blank(code, newKey()), at: later(), what: { kind: "entries", entries } });
  }
  return items;
}

/** The fields after the server answered a batch; `rows` are those another tab typed. What was typed on meanwhile saw what was stored. */
export function answered(drafts: Drafts, rows: Draft[], sent: SentEntry[], saved: JobSaved) {
  const after = { ...drafts };
  const done: Done = [];
  for (const { path, stamp } of sent) {
    const draft = after[path] ?? rows.find((row) => row.path === path);
    if (!draft) continue;
    const problem = saved.problems.find((one) => one.path === path);
    if (draft.stamp !== stamp) {
      if (path in saved.accepted) after[path] = { ...draft, seen: saved.accepted[path] ?? null };
    } else if (problem) {
      const keep = { ...draft, problem };
      after[path] = keep;
      done.push({ path, keep });
    } else {
      delete after[path];
      done.push({ path, keep: null });
    }
  }
  return { drafts: after, done };
}

/** The fields after a batch was not taken: each keeps the reason, unless it was typed into again. */
export function refused(drafts: Drafts, sent: SentEntry[], problem: Problem) {
  const after = { ...drafts };
  const done: Done = [];
  for (const { path, stamp } of sent) {
    const draft = after[path];
    if (draft?.stamp !== stamp) continue;
    const keep = { ...draft, problem: { ...problem, path } };
    after[path] = keep;
    done.push({ path, keep });
  }
  return { drafts: after, done };
}
