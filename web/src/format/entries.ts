/** An entry in words: what its field is called, and what was put there. */
import { type FieldFacts, factsOf, isBeside, type StepName } from "../api/fields.ts";
import { clock } from "./clock.ts";

/** What is known of a field; null for one there is none of, as in a queue an earlier version left. */
function known(step: string, keys: string[]): FieldFacts | null {
  try {
    return factsOf(step, keys);
  } catch {
    return null;
  }
}

export function labelOf(path: string): string {
  const beside = path.split("/")[1] ?? "";
  const last = path.slice(path.lastIndexOf("/") + 1).replaceAll("_", " ");
  if (isBeside(beside)) return known(beside, path.split("/").slice(2))?.label ?? last;
  const [head, tail] = path.split("/sheet/");
  if (path.includes("/answers/safety:")) return "caution read";
  if (!tail) return path.endsWith("/title") ? "title" : "kept as typed:";
  const step = head?.split("/")[2] as StepName;
  const keys = tail.split("/");
  return keys.length === 2 ? (keys[0] ?? "").replace(/s$/, "") : (known(step, keys)?.label ?? last);
}

export function textOf(path: string, value: { text?: string } | string | boolean | null): string {
  if (value === null) return "cleared";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "object") return value.text ?? "started";
  if (/^\d{4}-\d\d-\d\dT/.test(value)) return clock(value);
  return path.includes("/answers/") ? "" : (optionOf(path, value) ?? value.replaceAll("_", " "));
}

/** What a choice is called on the form, where it is one. */
function optionOf(path: string, value: string): string | undefined {
  const [head, tail] = path.split("/sheet/");
  const keys = tail?.split("/") ?? [];
  return keys.length && keys.length !== 2 ? known(head?.split("/")[2] as StepName, keys)?.options?.[value] : undefined;
}

type Stored = { text?: string; unit?: string; value?: unknown };

/** A stored value as somebody types it who chooses it. */
export function chosenOf(value: unknown): unknown {
  if (value === null || typeof value !== "object") return value;
  const { text, unit } = value as Stored;
  return { text, unit: unit === "lb oz" ? "lb" : unit };
}

/** A stored value as it stands in a sentence or on a button. */
export function saidOfStored(value: unknown): string {
  if (value === null || value === undefined) return "nothing";
  if (typeof value !== "object") return String(value);
  const { text, value: figure } = value as Stored;
  return text ?? String(figure);
}
