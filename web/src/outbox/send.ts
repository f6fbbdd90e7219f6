/** One item to the server, and its answer. */
import { client, take } from "../api/client.ts";
import type { JobSaved, JobState } from "../api/types.ts";
import type { Act, Item } from "./items.ts";

type Reply = JobState | JobSaved | null;

/** Sends it under its key. Throws as `take` does. */
export function send(item: Item, owner: string): Promise<Reply> {
  const headers = { "X-Yoshi-Owner": owner };
  const { code, key, what } = item;
  const params = { path: { code } };
  switch (what.kind) {
    case "entries": {
      const changes = what.entries.map(({ stamp: _, ...change }) => change);
      return take(client.POST("/api/jobs/{code}/changes", { params, body: { key, changes }, headers }));
    }
    case "make": {
      const body = { key, code, made_at: new Date(item.at).toISOString(), ...what.make };
      return take(client.POST("/api/jobs", { body, headers }));
    }
    case "file":
      return take(client.POST("/api/jobs/{code}/log", { params, body: { text: what.text }, headers })).then(() => null);
    case "act":
      return act(code, key, what.act, headers);
  }
}

function act(code: string, key: string, act: Act, headers: Record<string, string>): Promise<Reply> {
  const params = { path: { code } };
  switch (act.act) {
    case "close": {
      const step = { path: { code, step: act.step } };
      const body = { key, reason: act.reason };
      return take(client.POST("/api/jobs/{code}/steps/{step}/close", { params: step, body, headers }));
    }
    case "leave_out": {
      const step = { path: { code, step: act.step } };
      const body = { key, reason: act.reason };
      return take(client.POST("/api/jobs/{code}/steps/{step}/leave-out", { params: step, body, headers }));
    }
    case "reopen": {
      const step = { path: { code, step: act.step } };
      const body = { key, reason: act.reason, new_run: act.new_run };
      return take(client.POST("/api/jobs/{code}/steps/{step}/reopen", { params: step, body, headers }));
    }
    case "start_visit":
      return take(client.POST("/api/jobs/{code}/visits/start", { params, body: { key }, headers }));
    case "end_visit": {
      const { act: _, outcome, ...words } = act;
      const body = { key, outcome: outcome as "proven", ...words };
      return take(client.POST("/api/jobs/{code}/visits/end", { params, body, headers }));
    }
    case "adopt": {
      const body = { key, title: act.title, circuit_id: act.circuit_id };
      return take(client.POST("/api/jobs/{code}/adopt", { params, body, headers }));
    }
  }
}
