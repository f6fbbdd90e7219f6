/** A job judged on this device: the state the server last gave, with all that waits put on top of it, asked of the core here. */

import { taken } from "../api/along.ts";
import type { Echo, Findings, JobState, Message, Problem } from "../api/types.ts";
import { nowMs } from "../device/time.ts";
import { ask } from "../engine/engine.ts";
import type { Question } from "../engine/protocol.ts";
import { type Act, type Draft, type Item, typedAt } from "../outbox/items.ts";
import type { OutboxState } from "../outbox/outbox.ts";

type Refusal = { path: string; code: string; message: Message };
/** What the core says of one thing that waits. */
type ItemSaid = { refused?: Refusal; problems?: Problem[] };
export type Judged = {
  job: JobState["job"];
  document_version: number;
  kind: string;
  title: string;
  findings: Findings;
  otherwise: JobState["otherwise"];
  core_version: string;
  problems: Problem[];
  echoes: Record<string, Echo>;
  said: ItemSaid[];
};

/** Who asks: it stands beside every entry and act. */
export type Asker = { by: string };

const plain = (draft: Draft) => {
  const { path, seen, value, force } = draft;
  return { path, seen, value, force, ...typedAt(draft) };
};

/** What waits of a job, as the core takes it: batches and acts in their order. What was set aside, and what is no part of the job, is not in it. */
async function queueOf(items: Item[]): Promise<unknown[]> {
  const queue: unknown[] = [];
  for (const { at, what, problem } of items) {
    if (problem || what.kind === "make" || what.kind === "file") continue;
    const when = { at: new Date(at).toISOString() };
    if (what.kind === "entries")
      queue.push({ ...when, changes: what.entries.map(({ stamp: _, ...change }) => change) });
    else queue.push({ ...when, ...(await withCircuit(what.act)) });
  }
  return queue;
}

async function withCircuit(act: Act): Promise<Record<string, unknown>> {
  if (act.act !== "adopt" || act.circuit_id === null) return act;
  const found = (await taken())?.data.circuits.find((circuit) => circuit.id === act.circuit_id);
  return { ...act, circuit: found?.circuit ?? null };
}

/** The question all the others are made from. */
export async function questionOf(state: JobState, waits: OutboxState, { by }: Asker): Promise<Question> {
  const frozen = new Set(
    waits.items.flatMap(({ what }) => (what.kind === "entries" ? what.entries.map((e) => e.stamp) : [])),
  );
  const drafts = Object.values(waits.drafts).filter((draft) => !frozen.has(draft.stamp));
  return {
    ask: "judge",
    ...{ job: state.job, version: state.document_version, traces: state.traces, by },
    profile: (await taken())?.data.profile ?? null,
    now: new Date(nowMs()).toISOString(),
    queue: await queueOf(waits.items),
    draft: drafts.map(plain),
  };
}

/** What the job says with all that waits. Throws `NoEngine`, and `CoreRefused` where the document is of another version. */
export async function judge(state: JobState, waits: OutboxState, asker: Asker): Promise<Judged> {
  return ask<Judged>(await questionOf(state, waits, asker));
}

/** Whether an act would be taken, by the core here; the job as it then is. Throws `NoEngine`. */
export async function tryAct(state: JobState, waits: OutboxState, asker: Asker, act: Act): Promise<Refusal | null> {
  const question = await questionOf(state, waits, asker);
  const typed = { at: new Date(nowMs()).toISOString(), changes: question.draft };
  const acted = { at: new Date(nowMs()).toISOString(), ...(await withCircuit(act)) };
  const queue = [...(question.queue as unknown[]), typed, acted];
  const { said } = await ask<Judged>({ ...question, queue, draft: [] });
  return said.at(-1)?.refused ?? null;
}
