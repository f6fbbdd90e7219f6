/** jsdom lacks what Radix and the outbox expect of a browser; no test reaches a server. */
import { configure } from "@testing-library/react";
import { afterEach, beforeEach, vi } from "vitest";
import { close, openFor } from "./device/device.ts";
import { answer, KEY, ORRIN, rows } from "./test-device.ts";

globalThis.fetch = ((request: Request) => answer(request)) as typeof fetch;
vi.mock("idb-keyval", () => ({
  get: async (key: string) => rows.get(key),
  set: async (key: string, value: unknown) => void rows.set(key, structuredClone(value)),
  del: async (key: string) => void rows.delete(key),
  entries: async () => [...rows.entries()],
  keys: async () => [...rows.keys()],
}));

class Observer {
  observe() {}
  unobserve() {}
  disconnect() {}
}
globalThis.ResizeObserver ??= Observer as unknown as typeof ResizeObserver;
window.matchMedia ??= () =>
  ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }) as unknown as MediaQueryList;
Element.prototype.hasPointerCapture ??= () => false;
Element.prototype.scrollIntoView ??= () => undefined;

beforeEach(() => openFor(ORRIN, async () => KEY));

configure({ asyncUtilTimeout: 20_000 });

afterEach(async () => {
  await close();
  rows.clear();
  document.body.innerHTML = "";
});
