import { afterEach, expect, it } from "vitest";
import { patienceMs, patiently } from "./patience.ts";

const fetching = globalThis.fetch;
afterEach(() => {
  globalThis.fetch = fetching;
});

it("waits long for files, short for what the device can say itself, and for all else in between", () => {
  const at = (path: string) => patienceMs(`http://x${path}`);
  expect(at("/api/jobs/a/preview")).toBeLessThan(at("/api/jobs/a/changes"));
  expect(at("/api/jobs/a/changes")).toBeLessThan(at("/api/jobs/a/log"));
  expect(at("/api/jobs/import")).toBe(at("/api/jobs/a/log"));
});

it("gives up on a network that neither answers nor breaks", async () => {
  globalThis.fetch = ((_: Request, options?: { signal?: AbortSignal }) =>
    new Promise((_done, broke) => {
      options?.signal?.addEventListener("abort", () => broke(options.signal?.reason));
    })) as typeof fetch;
  await expect(patiently(new Request("http://x/api/me"), 20)).rejects.toThrow();
});
