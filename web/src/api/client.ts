import createClient, { type Middleware } from "openapi-fetch";
import { counting } from "./busy.ts";
import type { paths } from "./schema.gen.ts";
import type { ProblemBody } from "./types.ts";

/** A request the server refused, with its reason in words. */
export class Refused extends Error {
  readonly status: number;
  readonly problem: ProblemBody;

  constructor(status: number, problem: ProblemBody) {
    super(problem.detail);
    this.status = status;
    this.problem = problem;
  }
}

/** No answer at all: the network is gone, or the server. */
export class NoAnswer extends Error {}

const csrf: Middleware = {
  onRequest({ request }) {
    const token = document.cookie.match(/(?:^|; )csrftoken=([^;]+)/)?.[1];
    if (token && request.method !== "GET") request.headers.set("X-CSRFToken", token);
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: globalThis.location?.origin ?? "http://localhost" });
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
  if (response.status >= 502 && response.status <= 504) throw new NoAnswer("No answer from the server.");
  throw new Refused(response.status, asProblem(error, response.status));
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
    crypto.randomUUID?.() ?? Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16)).join("")
  );
}

const NO_ANSWER = "No answer from the server. Nothing was changed; try again when there is signal.";

/** What to say of a request that failed: the server's own words, or that it did not answer. */
export function saidOf(error: unknown, otherwise = NO_ANSWER): string {
  return error instanceof Refused ? error.message : otherwise;
}

/** The same, with the field it is about. */
export function refusalOf(error: unknown): { path: string; text: string } {
  return { path: error instanceof Refused ? error.problem.path : "", text: saidOf(error) };
}
