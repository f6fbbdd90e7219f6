/** An entry in words: what its field is called, and what was put there. */
import { factsOf, isBeside, type StepName } from "../api/fields.ts";
import { clock } from "./clock.ts";

export function labelOf(path: string): string {
  const beside = path.split("/")[1] ?? "";
  if (isBeside(beside)) return factsOf(beside, path.split("/").slice(2)).label;
  const [head, tail] = path.split("/sheet/");
  if (path.includes("/answers/safety:")) return "caution read";
  if (!tail) return path.endsWith("/title") ? "title" : "kept as typed:";
  const step = head?.split("/")[2] as StepName;
  const keys = tail.split("/");
  return keys.length === 2 ? (keys[0] ?? "").replace(/s$/, "") : factsOf(step, keys).label;
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
  return keys.length && keys.length !== 2 ? factsOf(head?.split("/")[2] as StepName, keys).options?.[value] : undefined;
}
