/** What is done about each answer of the server to something sent: one table for entries, acts, new jobs and files. */
import { NoAnswer, Refused } from "../api/client.ts";

export type Doing =
  /** The session is over: nothing is sent until somebody signs in, and then all of it goes on. */
  | { do: "sign_in" }
  /** Not taken: set aside with its reason. `apart`: where several went together, each is asked by itself first. */
  | { do: "aside"; code: string; text: string; apart: boolean }
  /** The same again, not before `ms`. `failed`: the server answered, and could not. */
  | { do: "wait"; ms: number; failed: boolean };

const LATER = [408, 425, 429];
const APART = [400, 413, 422];
const FIRST_MS = 2_000;
const LONGEST_MS = 120_000;
export const MOST_FAILURES = 10; // so often the server may fail on one thing while it takes others

/** Longer each time, and never two devices at once. */
export function pause(times: number, random: () => number = Math.random): number {
  return Math.min(LONGEST_MS, FIRST_MS * 2 ** Math.min(times, 10)) * (0.8 + 0.4 * random());
}

/** `times`: how often it was tried before; `bytes`: how large the request was. */
export function whatNow(error: unknown, times: number, bytes = 0): Doing {
  if (error instanceof NoAnswer) return { do: "wait", ms: error.retryMs ?? pause(times), failed: error.status >= 500 };
  if (!(error instanceof Refused)) throw error;
  const { status } = error;
  if (status === 401) return { do: "sign_in" };
  if (status >= 500 || LATER.includes(status))
    return { do: "wait", ms: error.retryMs ?? pause(times), failed: status >= 500 };
  const apart = APART.includes(status);
  if (status === 413)
    return { do: "aside", code: "too_large", text: `${error.message} This is ${sizeOf(bytes)}.`, apart };
  return { do: "aside", code: error.problem.code, text: error.message, apart };
}

function sizeOf(bytes: number): string {
  return bytes >= 100_000 ? `${(bytes / 1_000_000).toFixed(1)} MB` : `${Math.ceil(bytes / 1000)} kB`;
}
