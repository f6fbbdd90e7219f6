import createClient, { type Middleware } from "openapi-fetch";
import { practising } from "../device/practising.ts";
import { officeMs } from "../device/time.ts";
import { counting } from "./busy.ts";
import { patiently } from "./patience.ts";
import type { paths } from "./schema.gen.ts";
import type { ProblemBody } from "./types.ts";

/** A request the server refused, with its reason in words. */
export class Refused extends Error {
  readonly status: number;
  readonly problem: ProblemBody;
  /** How long the server asks to wait before it is tried again. */
  readonly retryMs: number | null;

  constructor(status: number, problem: ProblemBody, retryMs: number | null = null) {
    super(problem.detail);
    this.status = status;
    this.problem = problem;
    this.retryMs = retryMs;
  }
}

/** No answer of the server: the network is gone (`status` 0), or what stands before the server found it gone. */
export class NoAnswer extends Error {
  readonly status: number;
  readonly retryMs: number | null;

  constructor(message: string, options: { cause?: unknown; status?: number; retryMs?: number | null } = {}) {
    super(message, { cause: options.cause });
    this.status = options.status ?? 0;
    this.retryMs = options.retryMs ?? null;
  }
}

const csrf: Middleware = {
  onRequest({ request }) {
    const token = document.cookie.match(/(?:^|; )csrftoken=([^;]+)/)?.[1];
    if (token && request.method !== "GET") request.headers.set("X-CSRFToken", token);
    const run = practising();
    if (run) request.headers.set("X-Yoshi-Practice", run);
    return request;
  },
};

export const client = createClient<paths>({
  baseUrl: globalThis.location?.origin ?? "http://localhost",
  fetch: (request) => patiently(request),
});
client.use(csrf, counting);

type Reply<T> = { data?: T; error?: unknown; response: Response };

/** The data of a reply; throws `Refused` or `NoAnswer`. */
export async function take<T>(reply: Promise<Reply<T>>): Promise<T> {
  let settled: Reply<T>;
  try {
    settled = await reply;
  } catch (cause) {
    throw new NoAnswer("No answer from the server.", { cause });
  }
  const { data, error, response } = settled;
  if (response.ok) return data as T;
  const { status } = response;
  const retryMs = retryIn(response.headers.get("Retry-After"));
  if (status >= 502 && status <= 504) throw new NoAnswer("No answer from the server.", { status, retryMs });
  throw new Refused(status, asProblem(error, status), retryMs);
}

/** `Retry-After` is seconds or a day and time. */
function retryIn(said: string | null): number | null {
  if (!said) return null;
  const ms = /^\d+$/.test(said) ? Number(said) * 1000 : Date.parse(said) - officeMs();
  return Number.isFinite(ms) ? Math.max(0, ms) : null;
}

function asProblem(error: unknown, status: number): ProblemBody {
  if (error && typeof error === "object" && "detail" in error) return error as ProblemBody;
  const detail =
    status === 403 ? "Your session is not valid any more. Reload and sign in again." : `The server answered ${status}.`;
  return { type: "about:blank", title: "Refused", status, code: "refused", detail, path: "", params: {} };
}

/** A key that makes a repeated request harmless; also where `randomUUID` is missing, on a plain http address. */
export function newKey(): string {
  return (
    crypto.randomUUID?.() ??
    Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, "0")).join("")
  );
}

/** What makes a new job one and the same, whether the server made it at once, unheard, or gets it later: its key, and the number it goes by. */
export const newIds = (): { key: string; code: string } => ({
  key: newKey(),
  code: newKey().replaceAll("-", "").slice(0, 12),
});

const NO_ANSWER = "No answer from the server. Nothing was changed; try again when there is signal.";

/** What to say of a request that failed: the server's own words, or that it did not answer. */
export function saidOf(error: unknown, otherwise = NO_ANSWER): string {
  return error instanceof Refused ? error.message : otherwise;
}

/** The same, with the field it is about. */
export function refusalOf(error: unknown): { path: string; text: string } {
  return { path: error instanceof Refused ? error.problem.path : "", text: saidOf(error) };
}
