/**
 * What a device keeps of a person's work, encrypted under the key the server gives that person.
 *
 * A row's name stands in it, encrypted with its value; outside are whose it is, what sort, and a digest of the name
 * under the same key. Without the key nothing can be read, not even which jobs there were.
 */
import { del, get, keys, set } from "idb-keyval";

/** `draft`: typed and not yet stored by the server. `answer`: kept to be read without signal. */
export type Sort = "draft" | "answer";
type Row = { iv: Uint8Array<ArrayBuffer>; data: ArrayBuffer };
export type Keys = { owner: string; cipher: CryptoKey; digest: CryptoKey };

const text = new TextEncoder();

/** The two keys for a person, from the one the server gave: neither can be read out again. */
export async function keysFrom(owner: string, secret: string): Promise<Keys> {
  const raw = Uint8Array.from(atob(secret), (letter) => letter.charCodeAt(0));
  const base = await crypto.subtle.importKey("raw", raw, "HKDF", false, ["deriveKey"]);
  const from = (info: string) => ({ name: "HKDF", hash: "SHA-256", salt: new Uint8Array(), info: text.encode(info) });
  const cipher = await crypto.subtle.deriveKey(from("rows"), base, { name: "AES-GCM", length: 256 }, false, [
    "encrypt",
    "decrypt",
  ]);
  const digest = await crypto.subtle.deriveKey(from("names"), base, { name: "HMAC", hash: "SHA-256" }, false, ["sign"]);
  return { owner, cipher, digest };
}

export class Box {
  readonly owner: string;
  private readonly keys: Keys;
  private last: Promise<unknown> = Promise.resolve();

  constructor(keys: Keys) {
    this.keys = keys;
    this.owner = keys.owner;
  }

  /** One after the other: what was written later stands, and what is read was written before. */
  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const done = this.last.then(work);
    this.last = done.catch(() => undefined);
    return done;
  }

  set(sort: Sort, name: string, value: unknown): Promise<void> {
    return this.inTurn(() => this.write(sort, name, value));
  }

  private async write(sort: Sort, name: string, value: unknown): Promise<void> {
    const iv = crypto.getRandomValues(new Uint8Array(12));
    const plain = text.encode(JSON.stringify({ name, value }));
    const data = await crypto.subtle.encrypt({ name: "AES-GCM", iv }, this.keys.cipher, plain);
    await set(await this.place(sort, name), { iv, data } satisfies Row);
  }

  get<T>(sort: Sort, name: string): Promise<T | undefined> {
    return this.inTurn(async () => {
      const row = await get<Row>(await this.place(sort, name));
      return row && ((await this.read(row))?.value as T | undefined);
    });
  }

  del(sort: Sort, name: string): Promise<void> {
    return this.inTurn(async () => del(await this.place(sort, name)));
  }

  /** Every row of a sort, with its name. */
  rows<T>(sort: Sort): Promise<[string, T][]> {
    return this.inTurn(() => this.all<T>(sort));
  }

  private async all<T>(sort: Sort): Promise<[string, T][]> {
    const found: [string, T][] = [];
    for (const place of await this.places(sort)) {
      const row = await get<Row>(place);
      const plain = row && (await this.read(row));
      if (plain) found.push([plain.name, plain.value as T]);
    }
    return found;
  }

  /** Nothing of these sorts is kept any more of this person. */
  clear(sorts: readonly Sort[]): Promise<void> {
    return this.inTurn(async () => {
      for (const sort of sorts) for (const place of await this.places(sort)) await del(place);
    });
  }

  private async places(sort: Sort): Promise<string[]> {
    const start = `${this.owner}/${sort}/`;
    return (await keys<string>()).filter((place) => String(place).startsWith(start));
  }

  private async place(sort: Sort, name: string): Promise<string> {
    const digest = new Uint8Array(await crypto.subtle.sign("HMAC", this.keys.digest, text.encode(name)));
    const hex = Array.from(digest.slice(0, 16), (byte) => byte.toString(16).padStart(2, "0")).join("");
    return `${this.owner}/${sort}/${hex}`;
  }

  /** A row that does not open, of another key or damaged, is as if it were not there. */
  private async read({ iv, data }: Row): Promise<{ name: string; value: unknown } | undefined> {
    try {
      const plain = await crypto.subtle.decrypt({ name: "AES-GCM", iv }, this.keys.cipher, data);
      return JSON.parse(new TextDecoder().decode(plain));
    } catch {
      return undefined;
    }
  }
}
