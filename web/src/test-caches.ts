/** The browser's caches as maps, and a worker that answers as a test has it answer. */
import { vi } from "vitest";

export function someCaches() {
  const all = new Map<string, Map<string, Response>>();
  const path = (request: Request | string) => new URL(String((request as Request).url ?? request), "http://x").pathname;
  const opened = (name: string) => {
    const place = all.get(name) ?? new Map<string, Response>();
    all.set(name, place);
    return {
      match: async (request: string) => place.get(path(request))?.clone(),
      put: async (request: string, reply: Response) => void place.set(path(request), reply),
      delete: async (request: Request | string) => place.delete(path(request)),
      keys: async () => [...place.keys()].map((name) => ({ url: `http://x${name}` })),
    };
  };
  vi.stubGlobal("caches", {
    open: async (name: string) => opened(name),
    delete: async (name: string) => all.delete(name),
  });
  return all;
}

type Said = Record<string, unknown>;

/** Stands in for the worker: starts as told, and answers each question by `reply`. */
export function someWorker(begins: Said, reply: (question: Said) => Said = () => ({})) {
  const made: FakeWorker[] = [];
  class FakeWorker {
    onmessage: ((event: { data: Said }) => void) | null = null;
    ended = false;
    constructor() {
      made.push(this);
    }
    postMessage(data: { start?: string; id?: number; question?: string }) {
      const said =
        data.start !== undefined ? begins : { id: data.id, ms: 1, ...reply(JSON.parse(data.question ?? "{}") as Said) };
      setTimeout(() => this.onmessage?.({ data: said }));
    }
    terminate() {
      this.ended = true;
    }
  }
  vi.stubGlobal("Worker", FakeWorker);
  return made;
}
