/** The outboxes of this device: one a job, sending whether or not its page is open, from signing in to signing out. */
import { keep } from "../api/kept.ts";
import { box } from "../device/device.ts";
import { codeOf } from "./items.ts";
import { Outbox } from "./outbox.ts";

let owner = "";
let all = new Map<string, Outbox>();
const listeners = new Set<() => void>();
let seen: Outbox[] = [];

function told(): void {
  seen = [...all.values()];
  for (const listener of listeners) listener();
}

/** The outbox of a job, of who is signed in now. */
export function outboxOf(code: string): Outbox {
  if (owner !== box().owner) {
    for (const old of all.values()) old.stop();
    all = new Map();
    owner = box().owner;
  }
  const there = all.get(code);
  if (there) return there;
  const made = new Outbox(code, (saved) => {
    keep(`job:${code}`, saved);
  });
  all.set(code, made);
  made.subscribe(told);
  void made.start().then(told);
  return made;
}

/** Send what earlier pages left, of every job. */
export async function sendAll(): Promise<void> {
  const rows = await box().rows("draft");
  for (const code of new Set(rows.map(([name]) => codeOf(name)).filter(Boolean))) {
    const there = all.get(code);
    if (there && owner === box().owner) void there.flush();
    else outboxOf(code);
  }
}

export const subscribeAll = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** Every outbox of this device that was looked at. */
export const outboxes = (): Outbox[] => seen;
