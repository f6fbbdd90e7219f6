/**
 * What waits to be sent for one job, in the box of who made it: fields still being typed, one row each, and in front of them
 * whole items, in the order they were made.
 *
 * A row is written before anything else happens, so reload, lost network or a dead battery lose nothing. One tab sends at a
 * time (Web Lock). An item is frozen under its key: after a reload in flight the very same request is sent again. An act
 * freezes what was typed before it, so that it is sent before it.
 */

import { newKey } from "../api/client.ts";
import type { JobSaved, JobState, Problem } from "../api/types.ts";
import { box } from "../device/device.ts";
import { nowMs, onDevice } from "../device/time.ts";
import { type Doing, MOST_FAILURES, whatNow } from "./answers.ts";
import { answered, batchesOf, type Done, refused } from "./fields.ts";
import {
  blank,
  type Draft,
  draftKey,
  draftsOf,
  heldKey,
  type Item,
  itemsOf,
  putItem,
  takeItem,
  type What,
} from "./items.ts";
import { entriesOf, halvesOf, isAct, nextOf, seeing, waitsForChoice } from "./order.ts";
import { send } from "./send.ts";

export type { Draft } from "./items.ts";
export type Link = "fine" | "sending" | "offline" | "signed_out";
export type OutboxState = {
  drafts: Record<string, Draft>;
  items: Item[];
  /** Fields with two answers or a refused one: what closes or ends waits until one is chosen. */
  held: string[];
  link: Link;
  since: number | null;
  loaded: boolean;
};

const worded = (code: string, text: string): Problem => ({ path: "", code, message: { text, amounts: {}, words: {} } });

let last = 0;
/** Now, and later than what was made before: it is sent in that order. */
const later = () => {
  last = Math.max(nowMs(), last + 1);
  return last;
};

/** When anything of this device was last taken by the server: who fails all the time then, fails alone. */
let tookAt = 0;

export class Outbox {
  readonly code: string;
  /** Told of every state of the job the server answers with. */
  private onSaved: (saved: JobState) => void;
  private readonly box = box(); // whose entries these are, whoever signs in later
  private state: OutboxState = { drafts: {}, items: [], held: [], link: "fine", since: null, loaded: false };
  private listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private writes: Promise<unknown> = Promise.resolve();
  private ends = new Map<string, (end: JobState | Error) => void>();
  private silent = 0; // times in a row without an answer

  constructor(code: string, onSaved: (saved: JobState) => void) {
    this.code = code;
    this.onSaved = onSaved;
  }

  /** Tell somebody else of what is saved from now on; gives the way to stop it. */
  tell(onSaved: (saved: JobState) => void): () => void {
    const before = this.onSaved;
    this.onSaved = onSaved;
    return () => {
      this.onSaved = before;
    };
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  snapshot = (): OutboxState => this.state;

  private change(part: Partial<OutboxState>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }

  /** Read what an earlier page left behind and send it. */
  async start(): Promise<void> {
    const drafts: Record<string, Draft> = {};
    for (const draft of await draftsOf(this.box, this.code)) drafts[draft.path] = { ...draft, ready: true };
    const held = (await this.box.get<string[]>("draft", heldKey(this.code))) ?? [];
    const items = await itemsOf(this.box, this.code);
    last = Math.max(last, ...items.map(({ at }) => at)); // whatever the clock was set to meanwhile
    this.change({ drafts: { ...drafts, ...this.state.drafts }, items, held, loaded: true });
    window.addEventListener("online", this.flush);
    await this.flush();
  }

  stop(): void {
    window.removeEventListener("online", this.flush);
    clearTimeout(this.timer);
  }

  /** Keep a keystroke; `seen` is the stored value the person looked at. */
  type(path: string, value: unknown, seen: unknown, options: { ready?: boolean; force?: boolean } = {}): Promise<void> {
    const before = this.state.drafts[path];
    const at = nowMs();
    const deviceAt = onDevice(at);
    const draft: Draft = {
      path,
      value,
      seen: before ? before.seen : (seen ?? null),
      force: options.force ?? before?.force ?? false,
      ready: options.ready ?? false,
      stamp: newKey(),
      at,
      ...(deviceAt !== null && { deviceAt }),
    };
    this.change({ drafts: { ...this.state.drafts, [path]: draft } });
    return this.written(() => this.box.set("draft", draftKey(this.code, path), draft));
  }

  private written(work: () => Promise<void>): Promise<void> {
    const written = this.writes.then(work);
    this.writes = written.catch(() => undefined);
    return written;
  }

  /** The person left the field: it may be sent. */
  async commit(path: string): Promise<void> {
    const draft = this.state.drafts[path];
    if (!draft || draft.ready) return;
    await this.type(path, draft.value, draft.seen, { ready: true });
    await this.flush();
  }

  /** Forget an entry that was refused, and go back to what is stored. */
  async drop(path: string): Promise<void> {
    const { [path]: _, ...rest } = this.state.drafts;
    this.change({ drafts: rest });
    await this.box.del("draft", draftKey(this.code, path));
    await this.release([path]);
  }

  /** Put something behind all that waits, and behind what is typed now. */
  async put(what: What, key: string = newKey()): Promise<Item> {
    await this.freeze(() => true);
    const item: Item = { ...blank(this.code, key), at: later(), what };
    await putItem(this.box, item);
    this.change({ items: await itemsOf(this.box, this.code) });
    return item;
  }

  /** Put something and wait how it ends: the job's state, or `asked` where there is no answer now. Throws `Refused` where it is refused at once. */
  async ask(what: What, key?: string): Promise<JobState | "asked"> {
    const item = await this.put(what, key);
    const end = new Promise<JobState | Error>((done) => this.ends.set(item.key, done));
    await this.flush();
    const waits = this.state.items.some((one) => one.key === item.key);
    if (waits) this.ends.delete(item.key);
    const found = waits ? "asked" : await end;
    if (found instanceof Error) throw found;
    return found;
  }

  /** Take back what was put and not sent. */
  async away(key: string): Promise<void> {
    const item = this.state.items.find((one) => one.key === key);
    if (item) await this.gone(item);
  }

  /** Send again, by hand, what was set aside. */
  async again(key: string): Promise<void> {
    const item = this.state.items.find((one) => one.key === key);
    if (!item) return;
    const { problem: _, ...rest } = item;
    await this.replace([item], [{ ...rest, key: newKey(), times: 0, failures: 0, triedAt: 0, until: 0 }]);
    await this.flush();
  }

  /** Try all of it now, whatever it was to wait for. */
  async now(): Promise<void> {
    for (const item of this.state.items) if (item.until) await putItem(this.box, { ...item, until: 0 });
    await this.flush();
  }

  /** Send everything that may be sent; keeps trying while there is no answer. */
  flush = async (): Promise<void> => {
    clearTimeout(this.timer);
    await this.writes;
    const work = () => this.sendAll();
    if (navigator.locks) await navigator.locks.request(`yoshi-outbox-${this.code}`, work);
    else await work();
  };

  /** Make items of what is typed and chosen, at most so many entries each; whether there was any. */
  private async freeze(chosen: (draft: Draft) => boolean): Promise<boolean> {
    await this.writes;
    const waiting = new Set(this.state.items.flatMap(entriesOf).map((entry) => entry.stamp));
    const rows = await draftsOf(this.box, this.code);
    const drafts = rows
      .map((row) => this.state.drafts[row.path] ?? row)
      .filter((draft) => chosen(draft) && !draft.problem && !waiting.has(draft.stamp));
    for (const item of batchesOf(this.code, drafts, later)) await putItem(this.box, item);
    if (drafts.length) this.change({ items: await itemsOf(this.box, this.code) });
    return drafts.length > 0;
  }

  /** What was typed since, unless it has to wait: behind an act, or behind an entry of the same field. */
  private async freezeReady(): Promise<boolean> {
    const unsent = this.state.items.filter((item) => !item.problem);
    if (unsent.some((item) => isAct(item) && !waitsForChoice(item, this.state.held))) return false;
    const paths = new Set(unsent.flatMap(entriesOf).map((entry) => entry.path));
    return this.freeze((draft) => draft.ready && !paths.has(draft.path));
  }

  /** One after the other; what has to wait lets other entries go, and holds up the acts behind it. */
  private async sendAll(): Promise<void> {
    this.change({ items: await itemsOf(this.box, this.code) });
    const passed = new Set<string>(); // this time round
    let wakes: number | null = null;
    for (;;) {
      const item = nextOf(this.state.items, this.state.held, passed);
      if (!item) {
        if (await this.freezeReady()) continue;
        break;
      }
      const wait = item.until - nowMs();
      if (wait > 0) {
        passed.add(item.key);
        wakes = wakes === null ? wait : Math.min(wakes, wait);
        continue;
      }
      if (this.state.link === "fine") this.change({ link: "sending" });
      const stop = await this.one(item);
      if (stop !== null) {
        wakes = stop;
        break;
      }
    }
    if (this.state.link === "sending") this.change({ link: "fine", since: null });
    if (wakes) this.timer = setTimeout(() => void this.flush(), wakes);
  }

  /** Send one; milliseconds after which to try again where nothing more can be sent now. */
  private async one(item: Item): Promise<number | null> {
    try {
      const saved = await send(item, this.box.owner);
      tookAt = nowMs();
      this.silent = 0;
      if (item.what.kind === "entries") await this.settle(item, saved as JobSaved);
      else {
        await this.gone(item);
        if (saved) this.onSaved(saved);
        if (saved) this.end(item, saved);
      }
      if (this.state.link !== "sending") this.change({ link: "sending", since: null });
      return null;
    } catch (error) {
      return this.failed(item, error);
    }
  }

  private end(item: Item, end: JobState | Error): void {
    this.ends.get(item.key)?.(end);
    this.ends.delete(item.key);
  }

  /** Nothing is awaited between reading and changing the drafts: a key may be pressed at any await. */
  private async settle(item: Item, saved: JobSaved): Promise<void> {
    if (item.what.kind !== "entries") return;
    await takeItem(this.box, item);
    const rows = await draftsOf(this.box, this.code);
    const { drafts, done } = answered(this.state.drafts, rows, item.what.entries, saved);
    this.onSaved(saved);
    const left = this.state.items.filter((one) => one.key !== item.key).map((one) => seeing(one, saved.accepted));
    this.change({ drafts, items: left });
    for (const one of left)
      if (entriesOf(one).some((entry) => entry.path in saved.accepted)) await putItem(this.box, one);
    await this.written(() => this.store(done)).catch(() => undefined);
    await this.release(Object.keys(saved.accepted));
    if (this.state.items.some((one) => one.what.kind === "act"))
      await this.hold([...saved.conflicts.map((one) => one.path), ...saved.problems.map((one) => one.path)]);
  }

  /** What is held for no reason any more: somebody else chose, or it was typed anew. `open` are the fields with two answers. */
  async stillHeld(open: ReadonlySet<string>): Promise<void> {
    const { held, drafts } = this.state;
    await this.release(held.filter((path) => !open.has(path) && !(path in drafts)));
  }

  private async hold(paths: string[]): Promise<void> {
    if (paths.length) await this.holding([...new Set([...this.state.held, ...paths])]);
  }

  private async release(paths: string[]): Promise<void> {
    const held = this.state.held.filter((path) => !paths.includes(path));
    if (held.length !== this.state.held.length) await this.holding(held);
  }

  private async holding(held: string[]): Promise<void> {
    this.change({ held });
    if (held.length) await this.box.set("draft", heldKey(this.code), held);
    else await this.box.del("draft", heldKey(this.code));
  }

  /** Bring the rows in line, unless the field was typed into again meanwhile. */
  private async store(done: Done): Promise<void> {
    for (const { path, keep } of done) {
      const now = this.state.drafts[path];
      if (now && now.stamp !== keep?.stamp) continue;
      if (keep) await this.box.set("draft", draftKey(this.code, path), keep);
      else await this.box.del("draft", draftKey(this.code, path));
    }
  }

  /** By the one table: what to do with it, and whether anything else may be sent now. */
  private async failed(item: Item, error: unknown): Promise<number | null> {
    const now = whatNow(error, Math.max(item.times, this.silent), JSON.stringify(item.what).length);
    if (now.do === "sign_in") {
      this.change({ link: "signed_out", since: this.state.since ?? nowMs() });
      return 0;
    }
    if (now.do === "wait") return this.wait(item, now, error as Error);
    const { what } = item;
    if (what.kind === "entries" && what.entries.length > 1 && now.apart) await this.replace([item], halvesOf(item));
    else await this.setAside(item, worded(now.code, now.text), error as Error);
    return null;
  }

  private async wait(item: Item, now: Extract<Doing, { do: "wait" }>, error: Error): Promise<number | null> {
    const { what } = item;
    if (!now.failed) {
      this.silent += 1;
      this.change({ link: "offline", since: this.state.since ?? nowMs() });
      return now.ms;
    }
    if (what.kind === "entries" && what.entries.length > 1 && item.times > 0) {
      await this.replace([item], halvesOf({ ...item, times: 1 }));
      return null;
    }
    const others = tookAt > item.triedAt;
    if (!others) this.change({ link: "offline", since: this.state.since ?? nowMs() });
    const failures = item.failures + (others ? 1 : 0);
    if (failures >= MOST_FAILURES) {
      const text = "The office fails on this again and again. It is kept here; send it again when that is mended.";
      await this.setAside(item, worded("cannot_take", text), error);
      return null;
    }
    await this.replace(
      [item],
      [{ ...item, times: item.times + 1, failures, triedAt: nowMs(), until: nowMs() + now.ms }],
    );
    return null;
  }

  /** Entries go back to their fields with the reason; anything else stays where it is, with it. */
  private async setAside(item: Item, problem: Problem, error: Error): Promise<void> {
    if (this.ends.has(item.key)) {
      await this.gone(item);
      this.end(item, error);
      return;
    }
    if (item.what.kind !== "entries") {
      await this.replace([item], [{ ...item, problem }]);
      return;
    }
    await takeItem(this.box, item);
    const { drafts, done } = refused(this.state.drafts, item.what.entries, problem);
    this.change({ drafts, items: this.state.items.filter((one) => one.key !== item.key) });
    await this.written(() => this.store(done));
    if (this.state.items.some((one) => one.what.kind === "act")) await this.hold(done.map(({ path }) => path));
  }

  private async gone(item: Item): Promise<void> {
    await takeItem(this.box, item);
    this.change({ items: this.state.items.filter((one) => one.key !== item.key) });
  }

  private async replace(old: Item[], items: Item[]): Promise<void> {
    for (const item of items) await putItem(this.box, item);
    for (const item of old) if (!items.some((one) => one.key === item.key)) await takeItem(this.box, item);
    this.change({ items: await itemsOf(this.box, this.code) });
  }
}
