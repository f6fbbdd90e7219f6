import { createContext, useContext } from "react";
import { isBeside, type StepName, type Where } from "../api/fields.ts";
import type { Echo, Findings, JobState, Problem, StepResult, System } from "../api/types.ts";
import type { Question } from "../engine/protocol.ts";
import type { Act, Draft, Item } from "../outbox/items.ts";
import type { Link } from "../outbox/outbox.ts";
import type { Following, LiveValues } from "./live.ts";

export type JobView = {
  answer: JobState;
  findings: Findings;
  system: System;
  drafts: Record<string, Draft>;
  problems: Record<string, Problem>;
  echoes: Record<string, Echo>;
  link: Link;
  since: number | null;
  live: LiveValues;
  following: Following | null;
  readAt: number;
  fromDevice: boolean;
  /** Who judged what is shown: the office's server, or the core on this device while there is no signal. */
  judgedBy: "office" | "device";
  /** Whether the core on this device can judge: then work goes on without signal. */
  able: boolean;
  /** What waits to be sent beside single entries, in its order. */
  items: Item[];
  /** Fields with two answers, or a refused one, for which what closes waits. */
  held: string[];
  /** Steps that were closed or left out here, and are not at the office yet. */
  asked: ReadonlySet<string>;
  /** Do something with the job; `asked` where it stands until the office has it. Throws `Refused` as the rules refuse, `NoAnswer` where nothing can say. */
  act: (act: Act) => Promise<JobState | "asked">;
  /** This job as a question to the core on this device, with all that waits. */
  question: () => Promise<Question>;
  /** Send again, or forget, what was set aside. */
  again: (key: string) => void;
  away: (key: string) => void;
  type: (path: string, value: unknown, options?: { ready?: boolean; force?: boolean }) => void;
  commit: (path: string) => void;
  drop: (path: string) => void;
  /** Take the last change back, by a new entry; null where there is none to take back. */
  undo: (() => void) | null;
  sendNow: () => Promise<void>;
  refresh: (state: JobState) => void;
};

export const JobContext = createContext<JobView | null>(null);

export function useJob(): JobView {
  const view = useContext(JobContext);
  if (!view) throw new Error("useJob needs JobProvider around it");
  return view;
}

type Plain = Record<string, unknown>;

/** The value at a JSON pointer inside plain data, or null. */
export function at(plain: unknown, pointer: string): unknown {
  let place: unknown = plain;
  for (const key of pointer.split("/").slice(1)) {
    if (place === null || typeof place !== "object") return null;
    place = (place as Plain)[key];
  }
  return place ?? null;
}

/** Pointer of a field in the last run of a step, or beside the steps. */
export function pathOf(job: unknown, step: Where, keys: string[]): string {
  if (isBeside(step)) return [`/${step}`, ...keys].join("/");
  const runs = at(job, `/steps/${step}/runs`);
  const last = Array.isArray(runs) && runs.length ? runs.length - 1 : 0;
  return [`/steps/${step}/runs/${last}/sheet`, ...keys].join("/");
}

/** What a step says, with the picture of that step. */
export function useStep<S extends StepName>(step: S): StepResult<S> {
  const { findings } = useJob();
  const result = findings.steps.find((s) => s.step === step);
  if (!result) throw new Error(`the job has no step ${step}`);
  return result as StepResult<S>;
}

/** Whether an open step asks for a field nobody filled: it takes that answer though its own step is closed. */
export function useIsAsked(path: string): boolean {
  const { answer, findings } = useJob();
  if (answer.closed || at(answer.job, path) !== null) return false;
  const open = findings.steps.filter((step) => step.state === "open" || step.state === "changed");
  const unshown = findings.claims.filter((claim) => claim.standing === "not_yet");
  return [...open, ...unshown].some((one) => one.missing.some((m) => m.path === path));
}

/** A step that is closed takes no entries until it is opened again. */
export function useIsClosed(step: Where): boolean {
  const { answer, findings } = useJob();
  if (isBeside(step)) return answer.closed;
  const result = findings.steps.find((s) => s.step === step);
  if (!result) throw new Error(`the job has no step ${step}`);
  return result.state === "closed" || result.state === "not_applicable";
}

/** Keys of the rows of a record, stored ones and ones just being typed; `least` stands when there are none. */
export function useRows(step: StepName, name: string, least: string[]): string[] {
  const { answer, drafts } = useJob();
  const base = pathOf(answer.job, step, [name]);
  const fromCircuit = step === "identify" ? at(answer.job, `/circuit/plate/${name}`) : null;
  const stored = { ...((fromCircuit as Plain) ?? {}), ...((at(answer.job, base) as Plain) ?? {}) };
  const typed = Object.keys(drafts)
    .filter((path) => path.startsWith(`${base}/`))
    .map((path) => path.slice(base.length + 1).split("/")[0] ?? "");
  const all = [...new Set([...Object.keys(stored), ...typed])];
  return all.length ? all : least;
}
