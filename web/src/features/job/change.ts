import { at } from "./context.ts";

/** From what to what a retrofit changes; null in any other job, or while it is not named. */
export function changeOf(job: unknown): { from: string; to: string } | null {
  const to = at(job, "/steps/plan_change/runs/0/sheet/refrigerant");
  if (typeof to !== "string" || !to) return null;
  return { from: plateRefrigerant(job), to };
}

const plateRefrigerant = (job: unknown): string =>
  String(at(job, "/steps/identify/runs/0/sheet/refrigerant") ?? at(job, "/circuit/plate/refrigerant") ?? "");

/** What is charged in this job: the plate's refrigerant, or what a retrofit changes to. */
export function chargedOf(job: unknown): string {
  return changeOf(job)?.to ?? plateRefrigerant(job);
}
