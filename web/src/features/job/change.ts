import { at, pathOf } from "../../job/context.ts";

/** From what to what a retrofit changes; null in any other job, or while it is not named. */
export function changeOf(job: unknown): { from: string; to: string } | null {
  const to = at(job, pathOf(job, "plan_change", ["refrigerant"]));
  if (typeof to !== "string" || !to) return null;
  return { from: plateRefrigerant(job), to };
}

const plateRefrigerant = (job: unknown): string =>
  String(at(job, pathOf(job, "identify", ["refrigerant"])) ?? at(job, "/circuit/plate/refrigerant") ?? "");

/** What is charged in this job: the plate's refrigerant, or what a retrofit changes to. */
export function chargedOf(job: unknown): string {
  return changeOf(job)?.to ?? plateRefrigerant(job);
}
