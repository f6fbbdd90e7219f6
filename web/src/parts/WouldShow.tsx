import type { Claim, System } from "../api/types.ts";
import { listed } from "../format/message.ts";

/** What is still to be seen before a claim is shown; nothing of one that is settled. */
export function WouldShow({ claim, system }: { claim: Claim; system: System }) {
  if (claim.standing !== "not_yet" || claim.missing.length === 0) return null;
  const labels = claim.missing.map((m) => m.label);
  return <p className="text-soft">What would show it: {listed(labels, system)}.</p>;
}
