/** The core on this device: started when it is first needed, asked by text, and put away when it has not been asked for a while. */
import { kept, type Manifest, placeOf } from "./files.ts";
import type { CoreProblem, FromWorker, Question, ToWorker } from "./protocol.ts";

export type EngineState = {
  /** `absent`: not on this device. `kept`: it is, and not started. */
  at: "unknown" | "absent" | "kept" | "starting" | "ready" | "failed";
  core: string;
  why: string;
  /** Milliseconds it took to start, and Python's memory in bytes. */
  startMs: number;
  memory: number;
};

/** The core refused what was asked: in words, with the field. */
export class CoreRefused extends Error {
  readonly problem: CoreProblem;

  constructor(problem: CoreProblem) {
    super(problem.detail);
    this.problem = problem;
  }
}

/** There is no core on this device that could answer. */
class NoEngine extends Error {}

const IDLE_MS = 300_000; // its memory is given back
const BLANK: EngineState = { at: "unknown", core: "", why: "", startMs: 0, memory: 0 };

type Waiting = { good: (answer: string) => void; bad: (error: Error) => void };

let state = BLANK;
let worker: Worker | null = null;
let starting: Promise<void> | null = null;
let idle: ReturnType<typeof setTimeout> | undefined;
let last = 0;
const waiting = new Map<number, Waiting>();
const listeners = new Set<() => void>();

export const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
export const snapshot = (): EngineState => state;

function change(part: Partial<EngineState>): void {
  state = { ...state, ...part };
  for (const listener of listeners) listener();
}

/** Look again what is on the device: after it was brought, renewed or taken away. */
export async function look(): Promise<Manifest | null> {
  const manifest = await kept().catch(() => null);
  if (!manifest) putAway("absent");
  else if (starting && manifest.core_version === state.core) return manifest;
  else if (!worker || manifest.core_version !== state.core) {
    putAway("kept");
    change({ core: manifest.core_version });
  }
  return manifest;
}

/** Start it, unless it runs. Throws `NoEngine` where it is not here or does not start. */
export function start(): Promise<void> {
  starting ??= begin().catch((error: unknown) => {
    starting = null;
    throw error;
  });
  return starting;
}

async function begin(): Promise<void> {
  const manifest = await kept().catch(() => null);
  if (!manifest) {
    change({ ...BLANK, at: "absent" });
    throw new NoEngine("The rules are not on this device.");
  }
  change({ at: "starting", core: manifest.core_version, why: "" });
  const began = performance.now();
  const made = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
  worker = made;
  await new Promise<void>((good, bad) => {
    made.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      if ("started" in data) {
        change({ at: "ready", startMs: performance.now() - began, memory: data.bytes });
        good();
      } else if ("failed" in data) bad(new NoEngine(data.failed));
      else settle(data);
    };
    made.onerror = (event) => bad(new NoEngine(event.message || "it did not start"));
    made.postMessage({ start: new URL(placeOf(manifest), window.location.href).href } satisfies ToWorker);
  }).catch((error: Error) => {
    putAway("failed");
    change({ why: error.message });
    throw error;
  });
  made.onerror = (event) => {
    putAway("failed"); // whoever asked is told, and asks again
    change({ why: event.message || "it broke" });
  };
  rest();
}

function settle(data: Extract<FromWorker, { id: number }>): void {
  const asked = waiting.get(data.id);
  waiting.delete(data.id);
  if ("answer" in data) asked?.good(data.answer);
  else asked?.bad(new NoEngine(data.broke));
}

/** It is not wanted any more: whoever still asked is told, and nothing of it is fetched again. */
export const end = (): void => putAway("absent");

function rest(): void {
  clearTimeout(idle);
  idle = setTimeout(() => putAway("kept"), IDLE_MS);
}

function putAway(at: EngineState["at"]): void {
  clearTimeout(idle);
  worker?.terminate();
  worker = null;
  starting = null;
  for (const { bad } of waiting.values()) bad(new NoEngine("it was put away"));
  waiting.clear();
  change({ at, memory: 0 });
}

/** Ask the core here. Throws `CoreRefused` as the server would refuse, `NoEngine` where nothing can answer. */
export async function ask<T>(question: Question): Promise<T> {
  await start();
  rest();
  last += 1;
  const id = last;
  const text = await new Promise<string>((good, bad) => {
    waiting.set(id, { good, bad });
    worker?.postMessage({ id, question: JSON.stringify(question) } satisfies ToWorker);
  });
  const said = JSON.parse(text) as { said: T } | { refused: CoreProblem };
  if ("refused" in said) throw new CoreRefused(said.refused);
  return said.said;
}
