/** What the generated form facts say about a field. */
import forms from "./forms.gen.json";
import type { System } from "./types.ts";

export type FieldFacts = {
  quantity: string;
  label: string;
  unit?: { us: string; si: string };
  hard?: number[] | null;
  options?: Record<string, string>;
  maxLength?: number;
  row?: Record<string, FieldFacts>;
};
type StepName = keyof typeof forms.sheets;
/** Where a field is entered: the sheet of a step, or what stands beside them: acts, and parts that valves shut off. */
export type Where = StepName | Beside;
type Beside = "acts" | "sections";
const BESIDE = { acts: forms.acts, sections: forms.sections } as unknown as Record<Beside, Record<string, FieldFacts>>;
export const isBeside = (step: string): step is Beside => step in BESIDE;
const SHEETS = forms.sheets as unknown as Record<string, Record<string, FieldFacts>>;
const QUANTITIES = forms.quantities as Record<string, { units: { symbol: string }[] }>;

/** Facts of a field by step and keys inside the sheet, such as `["lines", "l1", "length"]`. */
export function factsOf(step: string, keys: string[]): FieldFacts {
  const [first, second, last] = keys;
  const outer = SHEETS[step]?.[first ?? ""];
  const row = keys.length > 1 ? outer?.row?.[last ?? ""] : outer;
  const found = isBeside(step) ? BESIDE[step][second ?? ""] : row;
  if (!found) throw new Error(`no field ${step} ${keys.join("/")}`);
  return found;
}

/** Where a step puts what instruments say: fields of its sheet or of a row of a record, with the channels that fill each. */
export type CaptureFacts = {
  way: "sheet" | "new_row" | "unread_row" | "scale";
  record: string;
  row: string;
  fields: { field: string; channels: string[] }[];
  begun: string[];
  first_open: boolean;
};
/** What the core says of a step besides its sheet. */
export type StepFacts = {
  label: string;
  holds: string;
  must: string;
  left_out: string[];
  early: boolean;
  channels: string[];
  capture: CaptureFacts | null;
};
const STEP = forms.step as Record<StepName, StepFacts>;

/** Facts of a step: whether it may be left out, what it reads from instruments. */
export const stepFacts = (step: StepName): StepFacts => STEP[step];

/** The units a field's bare number may be read in, the person's first. */
export function unitsOf(facts: FieldFacts, system: System): string[] {
  const first = facts.unit?.[system === "si" ? "si" : "us"];
  if (!first) return [];
  const all = QUANTITIES[facts.quantity]?.units.map((u) => u.symbol) ?? [];
  return [first, ...all.filter((symbol) => symbol !== first)];
}

/** Steps of a kind of job with their names, in order. */
export function stepsOf(kind: string): { id: StepName; label: string }[] {
  return (forms.steps as Record<string, { id: StepName; label: string }[]>)[kind] ?? [];
}

/** A step's name on screen, whatever kind of job it stands in. */
export function stepLabel(id: string): string {
  return STEP[id as StepName]?.label ?? "";
}

/** Every step by its id, in the order of the longest job. */
export const STEP_NAMES: Record<string, string> = Object.fromEntries(
  Object.entries(STEP).map(([id, { label }]) => [id, label]),
);

/** A verdict's word as it is shown on a step: what looks for something has found it. */
export function shownWord(word: string, step?: string): string {
  return (word === "Holds" && STEP[step as StepName]?.holds) || word;
}

export type { StepName };
