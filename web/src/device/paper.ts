/** Where a page has no cryptography, on an address without TLS: what is typed lasts as long as the page, and nothing is left on the device. */
import type { Sort } from "./box.ts";

export class Paper {
  readonly owner: string;
  private readonly held = new Map<string, unknown>();

  constructor(owner: string) {
    this.owner = owner;
  }

  async set(sort: Sort, name: string, value: unknown): Promise<void> {
    this.held.set(`${sort}/${name}`, value);
  }

  async get<T>(sort: Sort, name: string): Promise<T | undefined> {
    return this.held.get(`${sort}/${name}`) as T | undefined;
  }

  async del(sort: Sort, name: string): Promise<void> {
    this.held.delete(`${sort}/${name}`);
  }

  async rows<T>(sort: Sort): Promise<[string, T][]> {
    const start = `${sort}/`;
    return [...this.held]
      .filter(([place]) => place.startsWith(start))
      .map(([place, value]) => [place.slice(start.length), value as T]);
  }

  async clear(sorts: readonly Sort[]): Promise<void> {
    for (const name of [...this.held.keys()])
      if (sorts.some((sort) => name.startsWith(`${sort}/`))) this.held.delete(name);
  }
}
