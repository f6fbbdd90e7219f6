/** Answers kept in the box of who is signed in, so that the last plan stays readable without signal. */

import { box } from "../device/device.ts";
import { practising } from "../device/practising.ts";
import { officeMs } from "../device/time.ts";
import { NoAnswer } from "./client.ts";

export type Kept<T> = { data: T; at: number; fromDevice: boolean };

/** Raised when answers change shape: what an earlier Yoshi kept on the device is not read as if it were today's. */
const EDITION = "kept4:";
/** What a practice run has of its own is kept apart from the shop's. */
const place = (key: string): string => `${EDITION}${practising() ? `practice-${practising()}:` : ""}${key}`;

/** Keep an answer that came another way, such as with a save. */
export function keep<T>(key: string, data: T): Kept<T> {
  const answer = asKept(data);
  void box().set("answer", place(key), answer);
  return answer;
}

/** What was kept last, without asking. */
export async function keptBefore<T>(key: string): Promise<Kept<T> | undefined> {
  const before = await box().get<Kept<T>>("answer", place(key));
  return before && { ...before, fromDevice: true };
}

/** An answer just come, which is not kept. */
export function asKept<T>(data: T): Kept<T> {
  return { data, at: officeMs(), fromDevice: false };
}

/** The server's answer, or the last one kept when there is none; says which and from when. */
export async function kept<T>(key: string, ask: () => Promise<T>): Promise<Kept<T>> {
  const at = place(key); // as it was asked, wherever the page is when the answer comes
  try {
    const answer = asKept(await ask());
    await box().set("answer", at, answer);
    return answer;
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error;
    const before = await keptBefore<T>(key);
    if (!before) throw error;
    return before;
  }
}
