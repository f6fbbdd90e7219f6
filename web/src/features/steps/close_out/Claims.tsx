import { Link } from "react-router";
import { type StepName, stepLabel } from "../../../api/fields.ts";
import type { Claim } from "../../../api/types.ts";
import { fill } from "../../../format/message.ts";
import { useJob } from "../../../job/context.ts";
import { jobPath } from "../../../job/paths.ts";
import { StandingBadge } from "../../../parts/Standing.tsx";
import { WouldShow } from "../../../parts/WouldShow.tsx";

/** What this job shows, and how it rests. */
export function Claims() {
  const { findings } = useJob();
  return (
    <section aria-labelledby="claims" className="mt-4">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 id="claims">What this job shows, and how</h2>
        <p className="text-[14px] text-soft">{counted(findings.claims)}</p>
      </div>
      <ul className="mt-2">
        {findings.claims.map((claim) => (
          <Row key={claim.id} claim={claim} />
        ))}
      </ul>
    </section>
  );
}

const NAMES: [Claim["standing"], string][] = [
  ["contradicted", "contradicted"],
  ["not_yet", "not yet"],
  ["answered_for", "answered for"],
  ["shown", "shown"],
];

function counted(claims: Claim[]): string {
  return NAMES.map(([standing, text]) => [claims.filter((c) => c.standing === standing).length, text] as const)
    .filter(([count]) => count > 0)
    .map(([count, text]) => `${count} ${text}`)
    .join(" · ");
}

function Row({ claim }: { claim: Claim }) {
  const { answer, findings, system } = useJob();
  const there = findings.steps.some((s) => s.step === claim.step);
  const tint = claim.standing === "answered_for" || claim.standing === "contradicted";
  return (
    <li
      className={`grid gap-x-4 gap-y-1 border-t border-rule py-2 sm:grid-cols-[190px_1fr_auto] ${tint ? "bg-tint" : ""} px-2`}
    >
      <StandingBadge standing={claim.standing} label={claim.label} />
      <div className="text-[15px]">
        <p>{fill(claim.words, system)}</p>
        {claim.by && (
          <p>
            {claim.by} {claim.standing === "answered_for" ? "answers for it" : "closed it all the same"}: {claim.reason}
          </p>
        )}
        <WouldShow claim={claim} system={system} />
      </div>
      {there && (
        <Link
          to={jobPath(answer.code, claim.step)}
          className="inline-flex min-h-[44px] min-w-[44px] items-center self-start text-[14px] underline decoration-dotted underline-offset-4"
        >
          {stepLabel(claim.step as StepName)}
        </Link>
      )}
    </li>
  );
}
