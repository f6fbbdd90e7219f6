import { useCallback, useState } from "react";
import { nowMs } from "../../device/time.ts";

const TOGETHER_MS = 60; // what one press changes comes within it, and no two presses do

type Last = { at: number; before: Map<string, unknown> };

/** What the last change was before it: one field, or all that one press changed. */
export function useUndo() {
  const [last, setLast] = useState<Last | null>(null);
  const note = useCallback((path: string, stored: unknown, typing: boolean) => {
    setLast((old) => {
      const now = nowMs();
      const goesOn = old && (now - old.at <= TOGETHER_MS || (typing && old.before.has(path)));
      const before = new Map(goesOn ? old.before : []);
      if (!before.has(path)) before.set(path, asTyped(stored));
      return { at: goesOn ? old.at : now, before };
    });
  }, []);
  /** The changes to take back, the last first; what was done is done no further. */
  const take = (): [string, unknown][] => {
    const found = last ? [...last.before].reverse() : [];
    setLast(null);
    return found;
  };
  return { last, note, take };
}

type Stored = { text?: string; unit?: string; value?: unknown; source?: string; limit?: number | null };

/** A stored value as it was typed: what is worked out of it goes, a row keeps its fields. */
export function asTyped(value: unknown): unknown {
  if (value === null || typeof value !== "object") return value;
  const entry = value as Stored;
  if (typeof entry.text === "string" && "value" in entry) {
    const unit = entry.unit === "lb oz" ? "lb" : entry.unit;
    return { text: entry.text, unit, source: entry.source, ...(entry.limit != null && { limit: entry.limit }) };
  }
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, field]) => field !== null)
      .map(([key, field]) => [key, asTyped(field)]),
  );
}
