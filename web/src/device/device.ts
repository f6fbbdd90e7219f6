/**
 * Whose device this is now: the person's box is open from signing in to signing out, over reloads and without signal.
 *
 * The key lies in IndexedDB as one that cannot be read out; signing out takes it away, the next sign-in brings it back.
 */
import { del, entries, get, set } from "idb-keyval";
import { Box, type Keys, keysFrom } from "./box.ts";
import { Paper } from "./paper.ts";

type Who = { owner: string; username: string };

const KEY = "device:key";
const LEFT = "device:left"; // signed out without signal: the server is told first thing
const tabs = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("yoshi:device");
let open: Box | Paper | null = null;

tabs?.addEventListener("message", (event: MessageEvent<string | null>) => {
  if ((open?.owner ?? null) !== event.data) window.location.reload();
});

/** The box of who is signed in. */
export function box(): Box | Paper {
  if (!open) throw new Error("nobody is signed in on this device");
  return open;
}

/** Whether what is typed stays on the device when the page goes. */
export const keepsThings = (): boolean => Boolean(globalThis.crypto?.subtle);

/** Open the box of who is signed in, by the key that lies here or the one that is asked for. */
export async function openFor(me: Who, askKey: (owner: string) => Promise<string>): Promise<void> {
  if (open?.owner === me.owner) return;
  const before = open;
  if (!keepsThings()) open = new Paper(me.owner);
  else {
    const here = await get<Keys>(KEY);
    const kept = here?.owner === me.owner ? here : await keysFrom(me.owner, await askKey(me.owner));
    open = new Box(kept);
    await set(KEY, kept);
    await takeOver(open, me.username);
  }
  if (before) window.location.reload();
  tabs?.postMessage(me.owner);
}

/** Open the box by the key that lies here, without asking anybody; whether there is one. */
export async function reopen(): Promise<boolean> {
  if (open) return true;
  if (!keepsThings() || (await get(LEFT))) return false;
  const here = await get<Keys>(KEY);
  if (here) open = new Box(here);
  return Boolean(here);
}

/** The session is over: the key is taken away, and what was only kept to be read. What waits stays, unreadable, until the same person is back. */
export async function close(): Promise<void> {
  const was = open;
  await was?.clear(["answer"]);
  open = null;
  if (keepsThings()) await del(KEY);
  if (was) tabs?.postMessage(null);
}

/** How many entries wait to be sent. */
export async function waiting(): Promise<number> {
  const rows = open ? await open.rows("draft") : [];
  return rows.filter(([name]) => name.startsWith("draft:")).length;
}

/** Whether somebody signed out here without signal, and the server has not heard of it. */
export const left = async (): Promise<boolean> => Boolean(await get(LEFT));

export const setLeft = (is: boolean): Promise<void> => (is ? set(LEFT, true) : del(LEFT));

/** What an earlier version kept in the open is the person's who used the device last: it moves into their box. */
async function takeOver(into: Box, username: string): Promise<void> {
  const old = (await entries<string, unknown>()).filter(([place]) => /^(draft|sending|kept\d*):/.test(String(place)));
  if (!old.length) return;
  const last = old.find(([place]) => /^kept\d*:me$/.test(place))?.[1] as { data?: { username?: string } } | undefined;
  if (last?.data?.username !== username) return;
  for (const [place, value] of old) {
    if (!place.startsWith("kept")) await into.set("draft", place, value);
    await del(place);
  }
}
