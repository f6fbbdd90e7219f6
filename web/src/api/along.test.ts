import { beforeEach, describe, expect, it, vi } from "vitest";
import { someCaches, someWorker } from "../test-caches.ts";
import { answer } from "../test-device.ts";
import { ready, takeAlong, taken } from "./along.ts";
import { NoAnswer, Refused } from "./client.ts";
import { either } from "./either.ts";
import { keptBefore } from "./kept.ts";

const along = (jobs: { code: string; seq: number }[]) => ({
  core_version: "1",
  document_version: 5,
  jobs,
  circuits: [],
  profile: {},
});
let jobs = [
  { code: "a", seq: 3 },
  { code: "b", seq: 1 },
];
let asked: string[] = [];
let lost = "";

beforeEach(() => {
  asked = [];
  lost = "";
  jobs = [
    { code: "a", seq: 3 },
    { code: "b", seq: 1 },
  ];
  answer.mockReset();
  answer.mockImplementation(async (request: Request) => {
    const path = new URL(request.url).pathname.replace("/api/", "");
    asked.push(path);
    if (lost && path === lost) throw new TypeError("Failed to fetch");
    if (path === "device") return Response.json(along(jobs));
    const job = jobs.find(({ code }) => path === `jobs/${code}`);
    return Response.json(job ? { ...job, findings: { core_version: "1" } } : { rows: [] });
  });
});

describe("what a device takes along", () => {
  it("is all there afterwards, and says since when", async () => {
    const before = Date.now();
    expect(await takeAlong()).toMatchObject({ jobs: 2, missing: 0 });
    expect((await ready())?.at).toBeGreaterThanOrEqual(before);
    expect((await taken())?.data.jobs).toEqual(jobs);
    for (const name of ["job:a", "job:b", "jobs:open", "cylinders:all", "circuits:all", "refrigerants", "profile"])
      expect(await keptBefore(name), name).toBeTruthy();
  });

  it("is the whole book, page after page, and no more than a device carries", async () => {
    const page = (number: number) => ({ rows: [{ code: `C${number}` }], next: number < 3 ? number + 1 : null });
    answer.mockImplementation(async (request: Request) => {
      const url = new URL(request.url);
      if (url.pathname === "/api/device") return Response.json(along([]));
      if (url.pathname === "/api/circuits") return Response.json({ rows: [{ code: "again" }], next: 1 });
      if (url.pathname !== "/api/cylinders") return Response.json({ rows: [] });
      return Response.json(page(Number(url.searchParams.get("after") ?? 0)));
    });
    await takeAlong();
    const book = await keptBefore<{ rows: { code: string }[] }>("cylinders:all");
    expect(book?.data.rows.map(({ code }) => code)).toEqual(["C0", "C1", "C2", "C3"]);
    expect((await keptBefore<{ rows: unknown[] }>("circuits:all"))?.data.rows).toHaveLength(12);
  });

  it("is asked for again only where it changed", async () => {
    await takeAlong();
    asked = [];
    jobs = [
      { code: "a", seq: 4 },
      { code: "b", seq: 1 },
    ];
    await takeAlong();
    expect(asked.filter((path) => path.startsWith("jobs/"))).toEqual(["jobs/a"]);
    expect((await keptBefore<{ seq: number }>("job:a"))?.data.seq).toBe(4);
  });

  it("says what is missing when the signal goes on the way, and goes on from there", async () => {
    lost = "jobs/b";
    await expect(takeAlong()).rejects.toThrow(NoAnswer);
    expect((await ready())?.missing).toBeGreaterThan(0);
    lost = "";
    asked = [];
    expect(await takeAlong()).toMatchObject({ missing: 0 });
    expect(asked.filter((path) => path.startsWith("jobs/"))).toEqual(["jobs/b"]);
  });
});

describe("either the server or the core here", () => {
  const gone = () => Promise.reject(new NoAnswer("gone"));

  it("asks the server, and nobody else while it answers or refuses", async () => {
    const question = vi.fn();
    expect(await either(async () => 1, question)).toBe(1);
    const refused = new Refused(422, { detail: "no" } as never);
    await expect(either(() => Promise.reject(refused), question)).rejects.toBe(refused);
    expect(question).not.toHaveBeenCalled();
  });

  it("has no answer where the core is not here or there is nothing to ask it", async () => {
    await expect(either(gone, async () => null)).rejects.toThrow(NoAnswer);
    await expect(either(gone, async () => ({ ask: "chart" }))).rejects.toThrow("gone");
  });

  it("is answered here, and refused here as there", async () => {
    const caches = someCaches();
    const manifest = { version: "a", core_version: "0.0.0", files: [], wire_bytes: 0 };
    caches.set("yoshi-engine", new Map([["/engine.json", Response.json(manifest)]]));
    const problem = { path: "/gauge", code: "invalid_input", detail: "A gauge is vented or sealed." };
    someWorker({ started: true, python: "3.14", bytes: 0 }, ({ ask }) => ({
      answer: JSON.stringify(ask === "chart" ? { said: 7 } : { refused: problem }),
    }));
    expect(await either(gone, async () => ({ ask: "chart" }))).toBe(7);
    const refused = await either(gone, async () => ({ ask: "saturation" })).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(Refused);
    expect((refused as Refused).problem).toMatchObject(problem);
    vi.unstubAllGlobals();
  });
});
