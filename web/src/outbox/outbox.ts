/**
 * What was typed and not yet stored by the server, one row a field, in the box of who typed it.
 *
 * A row is written before anything else happens, so reload, lost network or a dead battery lose
 * nothing. One tab sends at a time (Web Lock); what is being sent is frozen under its key, so a
 * reload in flight sends the very same request again.
 */
import { client, NoAnswer, newKey, Refused, take } from "../api/client.ts";
import type { JobSaved, Problem } from "../api/types.ts";
import { box } from "../device/device.ts";

export type Draft = {
  path: string;
  seen: unknown;
  value: unknown;
  force: boolean;
  ready: boolean;
  stamp: string;
  at: number;
  problem?: Problem;
};
type Sending = {
  key: string;
  changes: { path: string; seen: unknown; value: unknown; force: boolean; typed_at: string; stamp: string }[];
  tries?: number;
};
export type Link = "fine" | "sending" | "offline" | "signed_out";
export type OutboxState = { drafts: Record<string, Draft>; link: Link; since: number | null; loaded: boolean };

const RETRY_MS = 4_000;
const AT_ONCE = 150; // the server takes 200 in one request; the rest follows
const LATER = [408, 429]; // and everything from 500 on: the same again, later
const TRIES = 3;
const rowKey = (code: string, path: string) => `draft:${code}:${path}`;
const sendingKey = (code: string) => `sending:${code}`;

let last = 0;
/** Now, and later than the entry before: they are sent in the order they were typed. */
const later = () => {
  last = Math.max(Date.now(), last + 1);
  return last;
};

export class Outbox {
  readonly code: string;
  private readonly box = box(); // whose entries these are, whoever signs in later
  private state: OutboxState = { drafts: {}, link: "fine", since: null, loaded: false };
  private listeners = new Set<() => void>();
  private onSaved: (saved: JobSaved) => void;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private writes: Promise<unknown> = Promise.resolve();

  constructor(code: string, onSaved: (saved: JobSaved) => void) {
    this.code = code;
    this.onSaved = onSaved;
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
    for (const draft of await this.rows()) drafts[draft.path] = { ...draft, ready: true };
    this.change({ drafts: { ...drafts, ...this.state.drafts }, loaded: true });
    window.addEventListener("online", this.flush);
    await this.flush();
  }

  stop(): void {
    window.removeEventListener("online", this.flush);
    clearTimeout(this.timer);
  }

  private async rows(): Promise<Draft[]> {
    const prefix = rowKey(this.code, "");
    const all = await this.box.rows<Draft>("draft");
    return all
      .filter(([name]) => name.startsWith(prefix))
      .map(([, draft]) => draft)
      .sort((one, other) => one.at - other.at);
  }

  /** Keep a keystroke; `seen` is the stored value the person looked at. */
  type(path: string, value: unknown, seen: unknown, options: { ready?: boolean; force?: boolean } = {}): Promise<void> {
    const before = this.state.drafts[path];
    const draft: Draft = {
      path,
      value,
      seen: before ? before.seen : (seen ?? null),
      force: options.force ?? before?.force ?? false,
      ready: options.ready ?? false,
      stamp: newKey(),
      at: later(),
    };
    this.change({ drafts: { ...this.state.drafts, [path]: draft } });
    const written = this.writes.then(() => this.box.set("draft", rowKey(this.code, path), draft));
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
    await this.box.del("draft", rowKey(this.code, path));
  }

  /** Send everything that is ready; keeps trying while there is no answer. */
  flush = async (): Promise<void> => {
    clearTimeout(this.timer);
    await this.writes;
    const work = () => this.send();
    if (navigator.locks) await navigator.locks.request(`yoshi-outbox-${this.code}`, work);
    else await work();
  };

  private async send(): Promise<void> {
    let sending = await this.box.get<Sending>("draft", sendingKey(this.code));
    if (!sending) {
      const changes = (await this.rows())
        .map((row) => this.state.drafts[row.path] ?? row)
        .filter((row) => row.ready && !row.problem)
        .slice(0, AT_ONCE)
        .map(({ path, seen, value, force, stamp, at }) => ({
          path,
          seen,
          value,
          force,
          typed_at: new Date(at).toISOString(),
          stamp,
        }));
      if (!changes.length) {
        if (this.state.link === "sending") this.change({ link: "fine", since: null });
        return;
      }
      sending = { key: newKey(), changes };
      await this.box.set("draft", sendingKey(this.code), sending);
    }
    if (this.state.link === "fine") this.change({ link: "sending" });
    try {
      const body = { key: sending.key, changes: sending.changes.map(({ stamp: _, ...change }) => change) };
      const saved = await take(
        client.POST("/api/jobs/{code}/changes", {
          params: { path: { code: this.code } },
          body,
          headers: { "X-Yoshi-Owner": this.box.owner },
        }),
      );
      await this.settle(sending, saved);
    } catch (error) {
      await this.failed(sending, error);
      return;
    }
    this.change({ link: "fine", since: null });
    await this.send();
  }

  /** Nothing is awaited between reading and changing the drafts: a key may be pressed at any await. */
  private async settle(sending: Sending, saved: JobSaved): Promise<void> {
    await this.box.del("draft", sendingKey(this.code));
    const rows = await this.rows();
    const drafts = { ...this.state.drafts };
    const done: { path: string; keep: Draft | null }[] = [];
    for (const sent of sending.changes) {
      const draft = drafts[sent.path] ?? rows.find((row) => row.path === sent.path);
      if (!draft) continue;
      const problem = saved.problems.find((p) => p.path === sent.path);
      if (draft.stamp !== sent.stamp) {
        if (sent.path in saved.accepted) drafts[sent.path] = { ...draft, seen: saved.accepted[sent.path] ?? null };
      } else if (problem) {
        drafts[sent.path] = { ...draft, problem };
        done.push({ path: sent.path, keep: drafts[sent.path] ?? null });
      } else {
        delete drafts[sent.path];
        done.push({ path: sent.path, keep: null });
      }
    }
    this.onSaved(saved);
    this.change({ drafts });
    this.writes = this.writes.then(() => this.store(done)).catch(() => undefined);
    await this.writes;
  }

  /** Bring the rows in line, unless the field was typed into again meanwhile. */
  private async store(done: { path: string; keep: Draft | null }[]): Promise<void> {
    for (const { path, keep } of done) {
      const now = this.state.drafts[path];
      if (now && now.stamp !== keep?.stamp) continue;
      if (keep) await this.box.set("draft", rowKey(this.code, path), keep);
      else await this.box.del("draft", rowKey(this.code, path));
    }
  }

  private async failed(sending: Sending, error: unknown): Promise<void> {
    if (error instanceof Refused && error.status === 401) {
      this.change({ link: "signed_out", since: this.state.since ?? Date.now() });
      return;
    }
    const large = error instanceof Refused && error.status === 413 && sending.changes.length > 1;
    if (large && (await this.cannotTake({ ...sending, tries: TRIES }))) return;
    if (error instanceof Refused && error.status < 500 && !LATER.includes(error.status)) {
      await this.setAside(sending, error.problem.code, error.message);
      return;
    }
    if (error instanceof Refused && error.status >= 500 && (await this.cannotTake(sending))) return;
    if (!(error instanceof NoAnswer || error instanceof Refused)) throw error;
    this.change({ link: "offline", since: this.state.since ?? Date.now() });
    this.timer = setTimeout(() => void this.flush(), RETRY_MS);
  }

  /** The entries of a request stay on the form with the reason, and are not sent again until they are typed anew. */
  private async setAside(sending: Sending, code: string, text: string): Promise<void> {
    await this.box.del("draft", sendingKey(this.code));
    const drafts = { ...this.state.drafts };
    for (const { path } of sending.changes) {
      const draft = drafts[path];
      if (draft) drafts[path] = { ...draft, problem: { path, code, message: { text, amounts: {}, words: {} } } };
    }
    this.change({ drafts, link: "fine", since: null });
  }

  /** The server failed on this request: tried a few times, then in halves, until the one entry it fails on stands aside and the rest goes on. */
  private async cannotTake(sending: Sending): Promise<boolean> {
    const tries = (sending.tries ?? 0) + 1;
    if (tries < TRIES) {
      await this.box.set("draft", sendingKey(this.code), { ...sending, tries });
      return false;
    }
    if (sending.changes.length > 1) {
      const half = sending.changes.slice(0, Math.ceil(sending.changes.length / 2));
      await this.box.set("draft", sendingKey(this.code), { key: newKey(), changes: half, tries: TRIES - 1 });
    } else {
      await this.setAside(
        sending,
        "cannot_take",
        "The server fails on this entry. It is kept here; type it anew to try again.",
      );
    }
    await this.send();
    return true;
  }
}
