/** Making this device ready to work without signal, and keeping it so: what is done in the background, and how far it is. */
import { useSyncExternalStore } from "react";
import { type Ready, ready, takeAlong } from "../../api/along.ts";
import { NoAnswer } from "../../api/client.ts";
import { end, look, start } from "../../engine/engine.ts";
import { canKeep, fetchAll, kept, offered, removeAll, setWanted, wanted } from "../../engine/files.ts";

export type Preparing = {
  wanted: "yes" | "no" | null;
  /** How much of the engine is here while it comes, 0 to 1. */
  share: number | null;
  /** Whether the engine here goes with this page, and whether the server has another. */
  engine: "unknown" | "absent" | "here";
  version: string;
  bytes: number;
  ready: Ready | null;
  refused: string;
};

let state: Preparing = {
  wanted: null,
  share: null,
  engine: "unknown",
  version: "",
  bytes: 0,
  ready: null,
  refused: "",
};
const listeners = new Set<() => void>();
let working: Promise<void> | null = null;

function change(part: Partial<Preparing>): void {
  state = { ...state, ...part };
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
export const usePreparing = (): Preparing => useSyncExternalStore(subscribe, () => state);

/** What is on the device now. */
export async function lookRound(): Promise<void> {
  const manifest = await look();
  const version = manifest?.core_version ?? "";
  change({ wanted: wanted(), engine: manifest ? "here" : "absent", version, ready: await ready() });
}

/** Bring what is missing, where this device is wanted to work without signal; one round at a time. */
export function bringUpToDate(): Promise<void> {
  working ??= round().finally(() => {
    working = null;
  });
  return working;
}

async function round(): Promise<void> {
  if (wanted() !== "yes" || !canKeep()) return lookRound();
  change({ refused: "" });
  try {
    change({ ready: await takeAlong() });
    const there = await offered();
    if ((await kept())?.version !== there.version) await fetchAll((share) => change({ share }));
  } catch (error) {
    if (!(error instanceof NoAnswer)) change({ refused: error instanceof Error ? error.message : String(error) });
  }
  change({ share: null });
  await lookRound();
}

/** This device is to work without signal. The browser is asked to keep what it keeps, for an emptied one would lose entries too. */
export async function want(): Promise<void> {
  setWanted(true);
  change({ wanted: "yes" });
  void navigator.storage?.persist?.();
  await bringUpToDate();
  await start().catch(() => undefined); // once, so that it is known to run here
}

export const mb = (bytes: number): string => `${(bytes / 1_000_000).toFixed(bytes < 10_000_000 ? 1 : 0)} MB`;

/** What the engine weighs on the way, for whoever decides. */
export async function weigh(): Promise<void> {
  change({ bytes: (await offered().catch(() => null))?.wire_bytes ?? 0 });
}

export async function refuse(): Promise<void> {
  setWanted(false);
  end();
  await working; // what is on its way would be put where it was just taken from
  await removeAll();
  await lookRound();
}
