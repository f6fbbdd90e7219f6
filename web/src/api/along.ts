/** What a device takes along to work without signal, and how far it has it: renewed while there is a network. */
import { officeMs } from "../device/time.ts";
import { client, take } from "./client.ts";
import { type Kept, keep, keptBefore } from "./kept.ts";
import type { Along, JobState } from "./types.ts";

/** How ready a device is, and since when; `missing` of what it should have did not come yet. */
export type Ready = { at: number; jobs: number; missing: number };

/** What is kept under the names the pages read it by. */
const PAGES: Record<string, () => Promise<unknown>> = {
  "jobs:open": () => take(client.GET("/api/jobs", { params: { query: { listed: "open" } } })),
  "jobs:quick": () => take(client.GET("/api/jobs", { params: { query: { listed: "quick" } } })),
  profile: () => take(client.GET("/api/profile")),
  refrigerants: () => take(client.GET("/api/refrigerants")),
  "cylinders:all": () =>
    whole((after) => take(client.GET("/api/cylinders", { params: { query: { after: after ?? null } } }))),
  "circuits:all": () =>
    whole((after) => take(client.GET("/api/circuits", { params: { query: { after: after ?? null } } }))),
};

/** So many pages of a list at most: a van's device does not carry the book of a shop with thousands of cylinders. */
const MOST_PAGES = 12;

/** A list page after page, as one. */
async function whole<Row>(page: (after?: number) => Promise<{ rows: Row[]; next?: number | null }>) {
  const rows: Row[] = [];
  let next: number | null | undefined;
  for (let count = 0; count < MOST_PAGES && next !== null; count++) {
    const came = await page(next);
    rows.push(...came.rows);
    next = came.next ?? null;
  }
  return { rows, next: null };
}

/** What was taken along last, from the device. */
export const taken = (): Promise<Kept<Along> | undefined> => keptBefore<Along>("along");

/** How ready this device is; null where nothing was taken along yet. */
export const ready = async (): Promise<Ready | null> => (await keptBefore<Ready>("ready"))?.data ?? null;

/**
 * Bring onto the device what changed since it was last here. Throws `NoAnswer` without a network; what was brought until then
 * stays, and is not asked for again.
 */
export async function takeAlong(): Promise<Ready> {
  const along = await take(client.GET("/api/device"));
  keep("along", along);
  let left = along.jobs.length + Object.keys(PAGES).length;
  const came = (): Ready => {
    left -= 1;
    return keep("ready", { at: officeMs(), jobs: along.jobs.length, missing: left }).data;
  };
  let now: Ready | null = null;
  for (const { code, seq } of along.jobs) {
    const before = (await keptBefore<JobState>(`job:${code}`))?.data;
    if (before?.seq !== seq || before.findings.core_version !== along.core_version)
      keep(`job:${code}`, await take(client.GET("/api/jobs/{code}", { params: { path: { code } } })));
    now = came();
  }
  for (const [name, ask] of Object.entries(PAGES)) {
    keep(name, await ask());
    now = came();
  }
  return now ?? { at: officeMs(), jobs: 0, missing: 0 };
}
