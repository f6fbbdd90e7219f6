/** jsdom lacks what Radix and the outbox expect of a browser; no test reaches a server. */
import { configure } from "@testing-library/react";
import { afterEach, vi } from "vitest";
import { answer, rows } from "./test-device.ts";

globalThis.fetch = ((request: Request) => answer(request)) as typeof fetch;
vi.mock("idb-keyval", () => ({
  get: async (key: string) => rows.get(key),
  set: async (key: string, value: unknown) => void rows.set(key, structuredClone(value)),
  del: async (key: string) => void rows.delete(key),
  entries: async () => [...rows.entries()],
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

configure({ asyncUtilTimeout: 20_000 });

afterEach(() => {
  document.body.innerHTML = "";
});
