import { beforeEach, describe, expect, it, vi } from "vitest";
import { NoAnswer } from "../api/client.ts";
import type { JobState } from "../api/types.ts";
import { box } from "../device/device.ts";
import { answer } from "../test-device.ts";
import { pause, whatNow } from "./answers.ts";
import { Outbox } from "./outbox.ts";

const PATH = "/steps/identify/runs/0/sheet/oil";

function saved(accepted: Record<string, unknown>, problems: unknown[] = [], conflicts: unknown[] = []): Response {
  return Response.json({ accepted, problems, conflicts, echoes: {}, seq: 2 });
}

const asked = (): string[] =>
  answer.mock.calls.map(([request]) => new URL((request as Request).url).pathname.replace("/api/jobs/job1/", ""));
const CLOSE = { kind: "act", act: { act: "close", step: "identify", reason: "" } } as const;

async function bodies(): Promise<
  { key: string; changes: { path: string; value: unknown; seen: unknown; typed_at: string }[] }[]
> {
  return Promise.all(answer.mock.calls.map(([request]) => (request as Request).clone().json()));
}

function opened() {
  const received: JobState[] = [];
  return { outbox: new Outbox("job1", (state) => received.push(state)), received };
}

const kept = async () => (await box().rows("draft")).map(([name]) => name);

beforeEach(() => {
  answer.mockReset();
});

describe("the outbox", () => {
  it("writes a keystroke to the device before anything is sent", async () => {
    const { outbox } = opened();
    await outbox.type(PATH, "PO", null);
    expect(await kept()).toEqual([`draft:job1:${PATH}`]);
    expect(answer).not.toHaveBeenCalled();
  });

  it("sends what was committed with the value seen, and forgets it", async () => {
    answer.mockResolvedValue(saved({ [PATH]: "POE" }));
    const { outbox, received } = opened();
    await outbox.type(PATH, "POE", "mineral");
    await outbox.commit(PATH);
    const change = { path: PATH, seen: "mineral", value: "POE", force: false, typed_at: expect.any(String) };
    expect((await bodies())[0]?.changes).toEqual([change]);
    expect(outbox.snapshot().drafts).toEqual({});
    expect(await kept()).toEqual([]);
    expect(received).toHaveLength(1);
  });

  it("keeps everything without a network and sends the very same request later", async () => {
    answer.mockRejectedValueOnce(new TypeError("Failed to fetch"));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null);
    await outbox.commit(PATH);
    expect(outbox.snapshot().link).toBe("offline");
    outbox.stop();
    answer.mockImplementation(async () => saved({ [PATH]: "POE" }));
    const later = opened();
    await later.outbox.start();
    const [first, second] = await bodies();
    expect(second).toEqual(first);
    expect(later.outbox.snapshot()).toMatchObject({ drafts: {}, link: "fine" });
    later.outbox.stop();
  });

  it("keeps a refused entry with its reason and does not send it again", async () => {
    answer.mockImplementation(async () =>
      saved({}, [{ path: PATH, code: "unit", message: { text: "no", amounts: {} } }]),
    );
    const { outbox } = opened();
    await outbox.type(PATH, "bad", null);
    await outbox.commit(PATH);
    expect(outbox.snapshot().drafts[PATH]?.problem?.message.text).toBe("no");
    await outbox.flush();
    expect(answer).toHaveBeenCalledTimes(1);
  });

  it("loses nothing that is typed while a request is on its way", async () => {
    const { outbox } = opened();
    const other = PATH.replace("oil", "serial");
    answer.mockImplementationOnce(async () => {
      await outbox.type(PATH, "POE 32", null);
      await outbox.type(other, "QR-1", null);
      return saved({ [PATH]: "POE" });
    });
    await outbox.type(PATH, "POE", null);
    await outbox.commit(PATH);
    expect(outbox.snapshot().drafts[PATH]).toMatchObject({ value: "POE 32", seen: "POE" });
    expect(outbox.snapshot().drafts[other]?.value).toBe("QR-1");
  });

  it("keeps entries when the session has run out", async () => {
    answer.mockResolvedValueOnce(Response.json({ detail: "signed out", code: "signed_out" }, { status: 401 }));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null);
    await outbox.commit(PATH);
    expect(outbox.snapshot().link).toBe("signed_out");
    expect(outbox.snapshot().drafts[PATH]?.value).toBe("POE");
  });

  it("sets the one entry aside that the server fails on, and sends the rest", async () => {
    const bad = "/steps/identify/runs/0/sheet/serial";
    answer.mockImplementation(async (request: Request) => {
      const { changes } = (await request.clone().json()) as { changes: { path: string }[] };
      if (changes.some((change) => change.path === bad)) return Response.json({ detail: "broken" }, { status: 500 });
      return saved(Object.fromEntries(changes.map((change) => [change.path, "x"])));
    });
    const { outbox, received } = opened();
    const paths = [PATH, bad, "/steps/identify/runs/0/sheet/circuit"];
    for (const path of paths) await outbox.type(path, "x", null, { ready: true });
    for (let n = 0; n < 16; n++) {
      await outbox.type("/acts/a1/reason", `${n}`, null, { ready: true }); // goes through each time
      await outbox.now();
    }
    outbox.stop();
    const { drafts } = outbox.snapshot();
    expect(Object.keys(drafts)).toEqual([bad]);
    expect(drafts[bad]?.problem?.message.text).toContain("It is kept here");
    expect(received.length).toBeGreaterThan(0);
    const before = answer.mock.calls.length;
    await outbox.flush();
    expect(answer.mock.calls.length).toBe(before);
  });

  it("sends what waited long in parts, and all of it", async () => {
    const sizes: number[] = [];
    answer.mockImplementation(async (request: Request) => {
      const { changes } = (await request.clone().json()) as { changes: { path: string }[] };
      sizes.push(changes.length);
      return saved(Object.fromEntries(changes.map((change) => [change.path, "x"])));
    });
    const { outbox } = opened();
    answer.mockRejectedValueOnce(new TypeError("Failed to fetch"));
    for (let n = 0; n < 430; n++) await outbox.type(`/acts/a${n}/reason`, "x", null, { ready: true });
    for (let n = 0; n < 3; n++) await outbox.flush();
    outbox.stop();
    expect(sizes.every((size) => size <= 200)).toBe(true);
    expect(outbox.snapshot().drafts).toEqual({});
    expect(await kept()).toEqual([]);
  });

  it.each([408, 429, 503])("tries again after %i, and sets nothing aside", async (status) => {
    answer.mockResolvedValueOnce(Response.json({ detail: "later" }, { status }));
    answer.mockResolvedValue(saved({ [PATH]: "POE" }));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null, { ready: true });
    await outbox.flush();
    expect(outbox.snapshot().drafts[PATH]?.problem ?? null).toBeNull();
    await outbox.now();
    outbox.stop();
    expect(outbox.snapshot().drafts).toEqual({});
  });

  it("halves what is too large for one request until it fits", async () => {
    answer.mockImplementation(async (request: Request) => {
      const { changes } = (await request.clone().json()) as { changes: { path: string }[] };
      if (changes.length > 3) return Response.json({ detail: "too large", code: "too_large" }, { status: 413 });
      return saved(Object.fromEntries(changes.map((change) => [change.path, "x"])));
    });
    const { outbox } = opened();
    for (let n = 0; n < 10; n++) await outbox.type(`/acts/a${n}/reason`, "x", null, { ready: true });
    for (let n = 0; n < 12; n++) await outbox.flush();
    outbox.stop();
    expect(outbox.snapshot().drafts).toEqual({});
  });
});

describe("acts behind entries", () => {
  it("are asked without a network, and sent after what was typed before them", async () => {
    answer.mockRejectedValue(new TypeError("Failed to fetch"));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null, { ready: true });
    expect(await outbox.ask(CLOSE)).toBe("asked");
    outbox.stop();
    answer.mockReset();
    answer.mockImplementation(async (request: Request) =>
      request.url.endsWith("/close") ? Response.json({ seq: 3 }) : saved({ [PATH]: "POE" }),
    );
    const later = opened();
    await later.outbox.start();
    expect(asked()).toEqual(["changes", "steps/identify/close"]);
    expect(later.outbox.snapshot()).toMatchObject({ items: [], drafts: {}, link: "fine" });
    expect(later.received.map((state) => state.seq)).toEqual([2, 3]);
    expect(await kept()).toEqual([]);
    later.outbox.stop();
  });

  it("are refused to whoever asks with a network, and stand aside when they waited", async () => {
    const refuse = () => Response.json({ detail: "Still needed: the oil.", code: "invalid_input" }, { status: 422 });
    answer.mockImplementation(async () => refuse());
    const { outbox } = opened();
    await expect(outbox.ask(CLOSE)).rejects.toThrow("Still needed: the oil.");
    expect(await kept()).toEqual([]);
    answer.mockRejectedValueOnce(new TypeError("Failed to fetch"));
    expect(await outbox.ask(CLOSE)).toBe("asked");
    await outbox.now();
    const [aside] = outbox.snapshot().items;
    expect(aside?.problem?.message.text).toBe("Still needed: the oil.");
    answer.mockImplementation(async () => Response.json({ seq: 4 }));
    await outbox.again(aside?.key ?? "");
    expect(outbox.snapshot().items).toEqual([]);
    outbox.stop();
  });

  it("that close wait for a choice between two answers, and the choice does not wait for them", async () => {
    answer.mockRejectedValue(new TypeError("Failed to fetch"));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null, { ready: true });
    await outbox.ask(CLOSE);
    const conflict = { path: PATH, theirs: "PAG", yours: "POE", by: "T. Vesk", at: null };
    answer.mockReset();
    answer.mockImplementationOnce(async () => saved({}, [], [conflict]));
    await outbox.now();
    expect(outbox.snapshot()).toMatchObject({ held: [PATH], items: [{ what: CLOSE }] });
    expect(asked()).toEqual(["changes"]);
    answer.mockImplementation(async (request: Request) =>
      request.url.endsWith("/close") ? Response.json({ seq: 5 }) : saved({ [PATH]: "POE" }),
    );
    await outbox.type(PATH, "POE", "PAG", { ready: true, force: true });
    await outbox.flush();
    expect(asked()).toEqual(["changes", "changes", "steps/identify/close"]);
    expect(outbox.snapshot()).toMatchObject({ held: [], items: [] });
    outbox.stop();
  });

  it("let a field typed again behind them see what was stored of it meanwhile", async () => {
    answer.mockRejectedValue(new TypeError("Failed to fetch"));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null, { ready: true });
    await outbox.ask(CLOSE);
    await outbox.ask({ kind: "act", act: { act: "reopen", step: "identify", reason: "misread", new_run: false } });
    await outbox.type(PATH, "PAG", null, { ready: true });
    answer.mockReset();
    answer.mockImplementation(async (request: Request) => {
      if (!request.url.endsWith("/changes")) return Response.json({ seq: 6 });
      const { changes } = (await request.clone().json()) as { changes: { path: string; value: unknown }[] };
      return saved(Object.fromEntries(changes.map((change) => [change.path, change.value])));
    });
    await outbox.now();
    expect(asked()).toEqual(["changes", "steps/identify/close", "steps/identify/reopen", "changes"]);
    expect((await bodies()).at(-1)?.changes[0]).toMatchObject({ value: "PAG", seen: "POE" });
    outbox.stop();
  });
});

describe("what is not taken", () => {
  it("of a new job keeps all that waits behind it, for the office does not have the job", async () => {
    answer.mockRejectedValue(new TypeError("Failed to fetch"));
    const { outbox } = opened();
    await outbox.put({ kind: "make", make: { kind: "charge", title: "Attic", circuit_id: 7 } });
    await outbox.type(PATH, "POE", null, { ready: true });
    answer.mockReset();
    answer.mockImplementation(async () => Response.json({ detail: "It is archived.", code: "x" }, { status: 422 }));
    await outbox.now();
    await outbox.now();
    expect(answer).toHaveBeenCalledTimes(1);
    expect(outbox.snapshot().drafts[PATH]).toMatchObject({ value: "POE" });
    expect(outbox.snapshot().drafts[PATH]?.problem).toBeUndefined();
    outbox.stop();
  });

  it("holds nothing up once somebody else chose, and goes on while two answers stand", async () => {
    answer.mockRejectedValue(new TypeError("Failed to fetch"));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null, { ready: true });
    await outbox.ask(CLOSE);
    const conflict = { path: PATH, theirs: "PAG", yours: "POE", by: "T. Vesk", at: null };
    answer.mockReset();
    answer.mockImplementationOnce(async () => saved({}, [], [conflict]));
    await outbox.now();
    await outbox.stillHeld(new Set([PATH]));
    expect(outbox.snapshot().held).toEqual([PATH]);
    await outbox.stillHeld(new Set());
    answer.mockImplementation(async () => Response.json({ seq: 5 }));
    await outbox.flush();
    expect(outbox.snapshot()).toMatchObject({ held: [], items: [] });
    outbox.stop();
  });
});

describe("every answer has its own way", () => {
  const refused = (status: number, retry?: string) =>
    Response.json({ detail: "no", code: "x" }, { status, headers: retry ? { "Retry-After": retry } : {} });

  it.each([400, 403, 404, 409, 410, 415, 422])("%i sets the entry aside with its field", async (status) => {
    answer.mockImplementation(async () => refused(status));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null, { ready: true });
    await outbox.flush();
    expect(outbox.snapshot().drafts[PATH]?.problem).toMatchObject({ path: PATH, message: { text: "no" } });
    outbox.stop();
  });

  it("413 says how large the one was that is too large", async () => {
    answer.mockImplementation(async () => refused(413));
    const { outbox } = opened();
    await outbox.type(PATH, "x".repeat(4_000), null, { ready: true });
    await outbox.flush();
    expect(outbox.snapshot().drafts[PATH]?.problem?.message.text).toBe("no This is 5 kB.");
    outbox.stop();
  });

  it.each([408, 425, 429])("%i waits as long as the server says", async (status) => {
    answer.mockImplementation(async () => refused(status, "7"));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null, { ready: true });
    const set = vi.spyOn(globalThis, "setTimeout");
    await outbox.flush();
    expect(set.mock.calls.some(([, ms]) => ms === 7_000)).toBe(true);
    set.mockRestore();
    outbox.stop();
  });

  it("waits longer each time there is no answer", () => {
    const waits = [0, 1, 2, 3, 9].map((times) => whatNow(new NoAnswer("gone"), times));
    const ms = waits.map((now) => (now.do === "wait" ? now.ms : 0));
    expect(ms.every((value, n) => n === 0 || value > (ms[n - 1] ?? 0) || n === 4)).toBe(true);
    expect(pause(40, () => 1)).toBeLessThan(145_000);
  });

  it("lets one job's failure hold up no other", async () => {
    const { outbox } = opened();
    const other = new Outbox("job2", () => undefined);
    answer.mockImplementation(async (request: Request) =>
      request.url.includes("job1") ? refused(500) : saved({ [PATH]: "x" }),
    );
    await outbox.type(PATH, "x", null, { ready: true });
    await other.type(PATH, "x", null, { ready: true });
    await Promise.all([outbox.flush(), other.flush()]);
    expect(other.snapshot().drafts).toEqual({});
    expect(outbox.snapshot().drafts[PATH]?.value).toBe("x");
    outbox.stop();
    other.stop();
  });
});
