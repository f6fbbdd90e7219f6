import type { StepName } from "../../api/fields.ts";
import { fill } from "../../format/message.ts";
import { useJob } from "../../job/context.ts";
import { StandingBadge } from "../../parts/Standing.tsx";
import { WouldShow } from "../../parts/WouldShow.tsx";

/** What this step can show, in one sentence, and what would show it. */
export function ClaimNote({ step }: { step: StepName }) {
  const { findings, system } = useJob();
  const claim = findings.claims.find((c) => c.step === step);
  if (!claim || claim.standing === "not_in_question") return null;
  return (
    <section
      aria-label={`What this shows: ${claim.label}`}
      className="mt-5 grid gap-x-5 gap-y-1 border-t border-rule pt-3 sm:grid-cols-[170px_1fr]"
    >
      <StandingBadge standing={claim.standing} label={claim.label} />
      <div className="text-[15px]">
        <p>{fill(claim.words, system)}</p>
        {claim.by && (
          <p>
            {claim.by} answers for it: {claim.reason}
          </p>
        )}
        <WouldShow claim={claim} system={system} />
      </div>
    </section>
  );
}
