/** Who is signed in, and signing out: the server's session and the device's box go together. */

import { box, close, left, openFor, reopen, setLeft } from "../device/device.ts";
import { officeMs } from "../device/time.ts";
import { client, NoAnswer, Refused, take } from "./client.ts";
import { type Kept, keep, kept } from "./kept.ts";
import type { Me } from "./types.ts";

/** Who is signed in, with their box open; without signal, who was when there was some. */
export async function whoIsHere(): Promise<Kept<Me>> {
  try {
    await tellLeft();
    const me = await take(client.GET("/api/me"));
    await openFor(me, askKey);
    return keep("me", me);
  } catch (error) {
    if (error instanceof Refused && error.status === 401) await close();
    if (!(error instanceof NoAnswer) || !(await reopen())) throw error;
    const before = await kept<Me>("me", () => Promise.reject(error));
    const days = (officeMs() - before.at) / 86_400_000;
    if (days <= before.data.offline_days) return before;
    await close(); // too long without a word of the server, which may have ended the account meanwhile
    throw error;
  }
}

/** The key of this person: somebody else may have signed in between the two questions. */
async function askKey(expected: string): Promise<string> {
  const { owner, key } = await take(client.GET("/api/me/key"));
  if (owner !== expected) throw new NoAnswer("Somebody else signed in meanwhile.");
  return key;
}

/** Sign out, with or without signal; `clear` takes what waits away too. */
export async function leave({ clear }: { clear: boolean }): Promise<void> {
  if (clear) await box().clear(["draft", "answer"]);
  sessionStorage.clear();
  await close();
  try {
    await take(client.DELETE("/api/session"));
  } catch (error) {
    if (error instanceof NoAnswer) await setLeft(true);
    else if (!(error instanceof Refused)) throw error;
  }
}

/** Tell the server of a sign-out it has not heard of. Throws `NoAnswer` while it cannot. */
async function tellLeft(): Promise<void> {
  if (!(await left())) return;
  await take(client.DELETE("/api/session")).catch((error) => {
    if (!(error instanceof Refused)) throw error;
  });
  await setLeft(false);
}
