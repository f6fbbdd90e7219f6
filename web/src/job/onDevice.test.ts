import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { newIds } from "../api/client.ts";
import { keep, keptBefore } from "../api/kept.ts";
import { BEGUN_HERE } from "../api/queries.ts";
import type { JobState } from "../api/types.ts";
import { box } from "../device/device.ts";
import { look } from "../engine/engine.ts";
import { blank, type Draft, type Item } from "../outbox/items.ts";
import type { OutboxState } from "../outbox/outbox.ts";
import { someCaches, someWorker } from "../test-caches.ts";
import { answer } from "../test-device.ts";
import { jobView, said } from "../test-job.tsx";
import { beginHere } from "./begin.ts";
import { judge, questionOf, tryAct } from "./onDevice.ts";

const PATH = "/steps/identify/runs/0/sheet/oil";
const state = { ...jobView().answer, document_version: 5, traces: [] } as JobState;
const draft = (path: string, value: unknown, stamp: string): Draft => ({
  ...{ path, value, stamp, seen: null, force: false, ready: true, at: 60_000 },
});
const entry = (path: string, stamp: string) => ({ path, stamp, seen: null, value: "x", force: false, typed_at: "t" });
const item = (key: string, at: number, what: Item["what"], problem?: Item["problem"]): Item => ({
  ...blank("job1", key),
  ...{ at, what },
  ...(problem && { problem }),
});
const waits = (part: Partial<OutboxState>): OutboxState => ({
  ...{ drafts: {}, items: [], held: [], link: "offline", since: null, loaded: true },
  ...part,
});
const close: Item["what"] = { kind: "act", act: { act: "close", step: "identify", reason: "" } };
let asked: Record<string, unknown>[] = [];
let reply: (question: Record<string, unknown>) => Record<string, unknown> = () => ({});

beforeEach(async () => {
  const manifest = { version: "a", core_version: "0.0.0", files: [], wire_bytes: 0 };
  someCaches().set("yoshi-engine", new Map([["/engine.json", Response.json(manifest)]]));
  asked = [];
  someWorker({ started: true, python: "3.14", bytes: 0 }, (question) => {
    asked.push(question);
    return { answer: JSON.stringify(reply(question)) };
  });
  await look();
});
afterEach(() => vi.unstubAllGlobals());

describe("a job as a question to the core here", () => {
  it("holds what is stored, then what waits in its order, then what is typed and not yet among it", async () => {
    const problem = { path: "", code: "x", message: said("no") };
    const items = [
      item("k1", 1_000, { kind: "entries", entries: [entry(PATH, "s1")] }),
      item("k2", 2_000, close),
      item("k3", 3_000, { kind: "act", act: { act: "start_visit" } }, problem),
      item("k4", 4_000, { kind: "file", name: "log.csv", text: "x" }),
    ];
    const drafts = { [PATH]: draft(PATH, "x", "s1"), "/title": draft("/title", "Attic", "s2") };
    const question = await questionOf(state, waits({ items, drafts }), { by: "M. Orrin" });
    expect(question).toMatchObject({ ask: "judge", job: state.job, version: 5, by: "M. Orrin", traces: [] });
    const { stamp: _, ...change } = entry(PATH, "s1");
    expect(question.queue).toEqual([
      { at: "1970-01-01T00:00:01.000Z", changes: [change] },
      { at: "1970-01-01T00:00:02.000Z", act: "close", step: "identify", reason: "" },
    ]);
    expect(question.draft).toMatchObject([{ path: "/title", value: "Attic", typed_at: "1970-01-01T00:01:00.000Z" }]);
  });

  it("brings the shop's profile and the circuit a quick total is made a job on", async () => {
    const circuits = [{ id: 7, circuit: { id: "A-1", name: "Attic" } }];
    keep("along", { circuits, profile: { id: "ours" }, jobs: [], core_version: "0.0.0", document_version: 5 });
    const adopt: Item["what"] = { kind: "act", act: { act: "adopt", title: "Attic", circuit_id: 7 } };
    const question = await questionOf(state, waits({ items: [item("k1", 1_000, adopt)] }), { by: "x" });
    expect(question).toMatchObject({ profile: { id: "ours" }, queue: [{ act: "adopt", circuit: { name: "Attic" } }] });
  });

  it("is answered with what the job says", async () => {
    reply = () => ({ said: { title: "Attic" } });
    expect(await judge(state, waits({}), { by: "x" })).toEqual({ title: "Attic" });
  });

  it("tries an act behind all that is typed, and says why it would be refused", async () => {
    const refused = { path: "/x", code: "invalid_input", message: said("Still needed: the oil.") };
    reply = () => ({ said: { said: [{}, { refused }] } });
    const drafts = { [PATH]: draft(PATH, "POE", "s1") };
    expect(
      await tryAct(state, waits({ drafts }), { by: "x" }, close.kind === "act" ? close.act : ({} as never)),
    ).toEqual(refused);
    expect(asked[0]).toMatchObject({
      queue: [{ changes: [{ path: PATH, value: "POE" }] }, { act: "close" }],
      draft: [],
    });
    reply = () => ({ said: { said: [{}, {}] } });
    expect(await tryAct(state, waits({}), { by: "x" }, { act: "start_visit" })).toBeNull();
  });
});

describe("a job begun here", () => {
  it("is kept as one the server does not know, and is sent first of all that waits for it", async () => {
    answer.mockReset();
    answer.mockRejectedValue(new TypeError("Failed to fetch"));
    const { findings } = jobView();
    reply = () => ({ said: { title: "Attic", kind: "charge", job: { id: "n" }, findings, document_version: 5 } });
    const me = { name: "M. Orrin" } as never;
    const made = await beginHere({ kind: "charge", title: "Attic", circuit_id: null }, me, newIds());
    expect(made.code).toMatch(/^[0-9a-f]{12}$/);
    expect(made).toMatchObject({ seq: BEGUN_HERE, title: "Attic", people: ["M. Orrin"] });
    expect((await keptBefore<JobState>(`job:${made.code}`))?.data.seq).toBe(BEGUN_HERE);
    const rows = await box().rows<Item>("draft");
    expect(rows.map(([, row]) => [row.code, row.what.kind])).toEqual([[made.code, "make"]]);
  });
});
