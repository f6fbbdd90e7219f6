/** jsdom lacks what Radix and the outbox expect of a browser. */
import { configure } from "@testing-library/react";
import { afterEach } from "vitest";

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
