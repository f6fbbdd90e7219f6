/** Whether something a press asked for is under way: what was sent and is not answered, but for what is saved while typing. */
import type { Middleware } from "openapi-fetch";

const TYPED = /\/(changes|preview)$/;
let under = 0;
const listeners = new Set<() => void>();

function turn(by: number): void {
  under = Math.max(0, under + by);
  for (const tell of listeners) tell();
}

const counts = (request: Request) => request.method !== "GET" && !TYPED.test(new URL(request.url).pathname);

export const counting: Middleware = {
  onRequest({ request }) {
    if (counts(request)) turn(1);
  },
  onResponse({ request }) {
    if (counts(request)) turn(-1);
  },
  onError({ request }) {
    if (counts(request)) turn(-1);
  },
};

export const busy = {
  subscribe(tell: () => void): () => void {
    listeners.add(tell);
    return () => listeners.delete(tell);
  },
  now: () => under > 0,
};
