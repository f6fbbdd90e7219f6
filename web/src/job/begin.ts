/** A job begun on this device without signal: the core here makes it, and the server gets it first of all that waits for it. */

import { taken } from "../api/along.ts";
import { keep } from "../api/kept.ts";
import { BEGUN_HERE } from "../api/queries.ts";
import type { JobState, Me } from "../api/types.ts";
import { nowMs } from "../device/time.ts";
import { ask } from "../engine/engine.ts";
import type { What } from "../outbox/items.ts";
import { outboxOf } from "../outbox/room.ts";
import type { Judged } from "./onDevice.ts";

type Make = Extract<What, { kind: "make" }>["make"];

/**
 * `ids` are those the server was asked with: should it have made the job unheard, what waits finds that one. Throws `NoEngine`
 * where the core is not on this device.
 */
export async function beginHere(make: Make, me: Me, ids: { key: string; code: string }): Promise<JobState> {
  const { code } = ids;
  const along = (await taken())?.data;
  const found = along?.circuits.find((circuit) => circuit.id === make.circuit_id);
  const now = new Date(nowMs()).toISOString();
  const made = await ask<Judged>({
    ask: "new",
    ...{ code, kind: make.kind, title: make.title, by: me.name, now },
    ...{ circuit: found?.circuit ?? null, facts: found?.facts ?? [], profile: along?.profile ?? null },
  });
  const state: JobState = {
    ...{ code, seq: BEGUN_HERE, kind: made.kind, title: made.title, closed: false, discarded: false, updated_at: now },
    ...{ siblings: [], people: [me.name], traces: [], otherwise: [] },
    ...{ document_version: made.document_version, job: made.job, findings: made.findings },
  };
  keep(`job:${code}`, state);
  await outboxOf(code).put({ kind: "make", make }, ids.key);
  return state;
}
