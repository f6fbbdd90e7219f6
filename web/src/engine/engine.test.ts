import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { someCaches, someWorker } from "../test-caches.ts";
import { ask, CoreRefused, look, snapshot, start } from "./engine.ts";
import { canKeep, fetchAll, kept, removeAll } from "./files.ts";

const manifest = (version: string, core = "0.0.0") => ({
  version,
  core_version: core,
  files: [
    { name: "pyodide.mjs", bytes: 3, wire_bytes: 3 },
    { name: "core.zip", bytes: 5, wire_bytes: 5 },
  ],
  wire_bytes: 8,
});
let offered = manifest("aaa");
let bodies: Record<string, string> = {};
const asked: string[] = [];
const fetching = globalThis.fetch;
let all: Map<string, Map<string, Response>>;

beforeEach(() => {
  all = someCaches();
  someWorker({ started: true, python: "3.14", bytes: 33_000_000 });
  asked.length = 0;
  offered = manifest("aaa");
  bodies = { "pyodide.mjs": "abc", "core.zip": "12345" };
  globalThis.fetch = (async (place: string) => {
    asked.push(place);
    if (place === "/engine.json") return Response.json(offered);
    return new Response(bodies[place.split("/").at(-1) ?? ""] ?? null);
  }) as typeof fetch;
});
afterEach(async () => {
  await removeAll();
  await look();
  globalThis.fetch = fetching;
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe("the engine's files", () => {
  it("come with how much is here, and are not asked for twice", async () => {
    expect(canKeep()).toBe(true);
    const shares: number[] = [];
    await fetchAll((share) => shares.push(share));
    expect(shares.at(-1)).toBe(1);
    expect(shares).toEqual([...shares].sort((one, other) => one - other));
    expect((await kept())?.version).toBe("aaa");
    asked.length = 0;
    await fetchAll(() => undefined);
    expect(asked).toEqual(["/engine.json"]);
  });

  it("are whole or not here: half of one is fetched again, and the engine is not there until all are", async () => {
    bodies["core.zip"] = "123";
    await expect(fetchAll(() => undefined)).rejects.toThrow("broke off");
    expect(await kept()).toBeNull();
    bodies["core.zip"] = "12345";
    asked.length = 0;
    await fetchAll(() => undefined);
    expect(asked).toEqual(["/engine.json", "/engine/aaa/core.zip"]);
  });

  it("of a new version take the place of the old ones once they are whole", async () => {
    await fetchAll(() => undefined);
    offered = manifest("bbb");
    await fetchAll(() => undefined);
    expect([...(all.get("yoshi-engine")?.keys() ?? [])].sort()).toEqual([
      "/engine.json",
      "/engine/bbb/core.zip",
      "/engine/bbb/pyodide.mjs",
    ]);
  });

  it("of another core than this page's are as if they were not here", async () => {
    offered = manifest("aaa", "9.9.9");
    await fetchAll(() => undefined);
    expect(await kept()).toBeNull();
  });
});

describe("the engine", () => {
  it("is not there until it was brought, and says so to whoever asks", async () => {
    await look();
    expect(snapshot().at).toBe("absent");
    await expect(ask({ ask: "saturation" })).rejects.toThrow("not on this device");
  });

  it("starts at the first question and answers it", async () => {
    await fetchAll(() => undefined);
    await look();
    expect(snapshot()).toMatchObject({ at: "kept", core: "0.0.0" });
    const made = someWorker({ started: true, python: "3.14", bytes: 33_000_000 }, (question) => ({
      answer: JSON.stringify({ said: { echo: question.ask } }),
    }));
    expect(await ask({ ask: "judge" })).toEqual({ echo: "judge" });
    expect(await ask({ ask: "again" })).toEqual({ echo: "again" });
    expect(made).toHaveLength(1);
    expect(snapshot()).toMatchObject({ at: "ready", memory: 33_000_000 });
  });

  it("refuses in the core's own words, and says where it broke", async () => {
    await fetchAll(() => undefined);
    const problem = { path: "/gauge", code: "invalid_input", detail: "A gauge is vented or sealed." };
    someWorker({ started: true, python: "3.14", bytes: 0 }, (question) =>
      question.ask === "break" ? { broke: "KeyError" } : { answer: JSON.stringify({ refused: problem }) },
    );
    const refused = await ask({ ask: "saturation" }).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(CoreRefused);
    expect((refused as CoreRefused).problem).toEqual(problem);
    await expect(ask({ ask: "break" })).rejects.toThrow("KeyError");
  });

  it("that does not start says why, and is tried anew", async () => {
    await fetchAll(() => undefined);
    someWorker({ failed: "no memory" });
    await expect(start()).rejects.toThrow("no memory");
    expect(snapshot()).toMatchObject({ at: "failed", why: "no memory" });
    someWorker({ started: true, python: "3.14", bytes: 0 });
    await start();
    expect(snapshot().at).toBe("ready");
  });

  it("gives its memory back when it was not asked for a while", async () => {
    await fetchAll(() => undefined);
    const made = someWorker({ started: true, python: "3.14", bytes: 1 });
    vi.useFakeTimers();
    const started = start();
    await vi.advanceTimersByTimeAsync(10);
    await started;
    await vi.advanceTimersByTimeAsync(301_000);
    expect(made[0]?.ended).toBe(true);
    expect(snapshot().at).toBe("kept");
  });
});
