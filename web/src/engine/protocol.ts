/** What goes between the page and the worker that runs the core. */

/** A question to the core, as its door takes it (`yoshi_core.device.door`). */
export type Question = { ask: string } & Record<string, unknown>;

/** What the core refuses, with the field it is about; its words are filled in as the server's are. */
export type CoreProblem = { path: string; code: string; detail: string };

export type ToWorker = { start: string } | { id: number; question: string };

export type FromWorker =
  | { started: true; python: string; bytes: number }
  | { failed: string }
  | { id: number; answer: string; ms: number }
  | { id: number; broke: string };
