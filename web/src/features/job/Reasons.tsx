import type { StepName } from "../../api/fields.ts";
import { fill } from "../../format/message.ts";
import { pathOf, useJob, useStep } from "../../job/context.ts";
import { VerdictBadge } from "../../parts/shapes.tsx";

/** What can hurt here, in front of the work until a person of this job has said it is seen; afterwards it stands below. */
export function Safety({ step }: { step: StepName }) {
  const { answer, system, type } = useJob();
  const { cautions, state } = useStep(step);
  const fresh = cautions.filter((caution) => !caution.seen);
  if (state !== "open" || answer.kind === "quick" || !fresh.length) return null;
  const base = pathOf(answer.job, step, []).replace(/\/sheet\/?$/, "/answers");
  const see = () => {
    for (const caution of fresh) type(`${base}/safety:${caution.id}`, "seen", { ready: true, force: true });
  };
  return (
    <section aria-label="Safety" className="note mt-3 flex flex-wrap items-center gap-x-5 gap-y-2" data-testid="safety">
      <ul className="grid min-w-[240px] flex-1 gap-1">
        {fresh.map((caution) => (
          <li key={caution.id}>{fill(caution.message, system)}</li>
        ))}
      </ul>
      <button type="button" className="btn" onClick={see}>
        Understood
      </button>
    </section>
  );
}

export function Reasons({ step }: { step: StepName }) {
  const { answer, system } = useJob();
  const { verdict, cautions, state } = useStep(step);
  const before = state === "open" && answer.kind !== "quick";
  const standing = before ? cautions.filter((caution) => caution.seen) : cautions;
  const reasons = verdict.reasons;
  return (
    <div className="mt-5 border-t border-rule pt-3 text-[14px]">
      {reasons.length > 0 && (
        <>
          <h2 className="mb-1">Reasons</h2>
          <ul className="mb-3 grid gap-1">
            {reasons.map((reason) => (
              <li key={reason.rule_id + reason.message.text} className="grid grid-cols-[74px_1fr] items-baseline gap-3">
                <VerdictBadge word={reason.word} />
                <span>
                  {fill(reason.message, system)} <span className="text-[14px] text-soft">{reason.source}</span>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {standing.length > 0 && (
        <ul className="grid gap-1 text-[14px]">
          {standing.map((caution) => (
            <li key={caution.id} className="border-l-4 border-[var(--edge)] pl-3">
              {fill(caution.message, system)}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
