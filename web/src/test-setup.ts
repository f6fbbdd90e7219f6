/** jsdom lacks what Radix and the outbox expect of a browser. */
import { afterEach } from "vitest";

class Observer {
  observe() {}
  unobserve() {}
  disconnect() {}
}
globalThis.ResizeObserver ??= Observer as unknown as typeof ResizeObserver;
Element.prototype.hasPointerCapture ??= () => false;
Element.prototype.scrollIntoView ??= () => undefined;

afterEach(() => {
  document.body.innerHTML = "";
});
