/** What waits to be sent, as it lies in the device's box; and what earlier versions left there. */
import type { Problem } from "../api/types.ts";
import type { Box } from "../device/box.ts";
import type { Paper } from "../device/paper.ts";

/** A field as it was typed, which may still be typed on. */
export type Draft = {
  path: string;
  seen: unknown;
  value: unknown;
  force: boolean;
  ready: boolean;
  stamp: string;
  at: number;
  /** What the device's own clock showed then, where that is off. */
  deviceAt?: number;
  problem?: Problem;
};

type Change = {
  path: string;
  seen: unknown;
  value: unknown;
  force: boolean;
  typed_at: string;
  device_at?: string;
};
export type SentEntry = Change & { stamp: string };

/** When a field was typed, as it is sent: by the office's clock as far as it is known here, and by the device's own where that is off. */
export const typedAt = ({ at, deviceAt }: Draft): Pick<Change, "typed_at" | "device_at"> => ({
  typed_at: new Date(at).toISOString(),
  ...(deviceAt !== undefined && { device_at: new Date(deviceAt).toISOString() }),
});

/** What is done with a job apart from entries. */
export type Act =
  | { act: "close" | "leave_out"; step: string; reason: string }
  | { act: "reopen"; step: string; reason: string; new_run: boolean }
  | { act: "start_visit" }
  | { act: "end_visit"; outcome: string; reason: string; awaited: string; return_on: string }
  | { act: "adopt"; title: string; circuit_id: number | null };

export type What =
  | { kind: "entries"; entries: SentEntry[] }
  | { kind: "act"; act: Act }
  | { kind: "make"; make: { kind: "service" | "charge" | "quick"; title: string; circuit_id: number | null } }
  | { kind: "file"; name: string; text: string };

/** One thing to be sent, once: its key makes it harmless when it is sent again. */
export type Item = {
  key: string;
  code: string;
  at: number;
  what: What;
  /** How often there was no good answer, and how often the server failed on it while it took others. */
  times: number;
  failures: number;
  triedAt: number;
  until: number;
  problem?: Problem;
};

type Row<T> = [string, T];
type Sending = { key: string; changes: SentEntry[]; tries?: number };

export const draftKey = (code: string, path: string): string => `draft:${code}:${path}`;
const itemKey = (item: Item): string => `item:${item.code}:${item.key}`;
const oldSendingKey = (code: string): string => `sending:${code}`;
export const heldKey = (code: string): string => `held:${code}`;

/** Which job a row belongs to. */
export const codeOf = (name: string): string => name.split(":")[1] ?? "";

export async function draftsOf(box: Box | Paper, code: string): Promise<Draft[]> {
  const rows = (await box.rows<Draft>("draft")).filter(([name]) => name.startsWith(draftKey(code, "")));
  return rows.map(([, draft]) => asToday(draft)).sort((one, other) => one.at - other.at);
}

/** An entry as this version keeps it: the words of a refusal were once a text alone. */
function asToday(draft: Draft): Draft {
  if (!draft.problem) return draft;
  const message = draft.problem.message as Problem["message"] | string;
  const words = typeof message === "string" ? { text: message } : message;
  return {
    ...draft,
    problem: { ...draft.problem, message: { amounts: {}, words: {}, ...words } as Problem["message"] },
  };
}

/** The items of a job in the order they were made; a batch an earlier version was sending comes first, under its own key. */
export async function itemsOf(box: Box | Paper, code: string): Promise<Item[]> {
  const rows = await box.rows<unknown>("draft");
  const items = (rows.filter(([name]) => name.startsWith(`item:${code}:`)) as Row<Item>[]).map(([, item]) => item);
  const old = (rows.find(([name]) => name === oldSendingKey(code)) as Row<Sending> | undefined)?.[1];
  const first: Item[] = old
    ? [{ ...blank(code, old.key), at: 0, what: { kind: "entries", entries: old.changes } }]
    : [];
  return [...first, ...items.sort((one, other) => one.at - other.at)];
}

export function blank(code: string, key: string): Omit<Item, "what" | "at"> {
  return { key, code, times: 0, failures: 0, triedAt: 0, until: 0 };
}

export async function putItem(box: Box | Paper, item: Item): Promise<void> {
  await box.set("draft", itemKey(item), item);
}

export async function takeItem(box: Box | Paper, item: Item): Promise<void> {
  await box.del("draft", itemKey(item));
  if (item.at === 0) await box.del("draft", oldSendingKey(item.code));
}
