import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { stepsOf } from "../../api/fields.ts";
import { schoolsQuery } from "../../api/queries.ts";
import type { Amount } from "../../api/types.ts";
import { fill, worded } from "../../format/message.ts";
import { showAmount } from "../../format/quantity.ts";
import { useJob } from "../../job/context.ts";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { Dialog } from "../../ui/Dialog.tsx";

/** What other schools would say of this job. Nothing is changed by looking. */
export function Schools({ className = "" }: { className?: string }) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="What another practice would change here"
      trigger={
        <button type="button" className={`btn quiet ${className}`}>
          Other practice
        </button>
      }
    >
      {open && <Changes />}
    </Dialog>
  );
}

function Changes() {
  const { answer, system } = useJob();
  const { data, error } = useQuery(schoolsQuery(answer.code, answer.seq));
  if (error) return <p className="note">{error.message}</p>;
  if (!data) return <p className="text-soft">Trying every other practice …</p>;
  const label = (step: string) => stepsOf(answer.kind).find((one) => one.id === step)?.label ?? step;
  const amount = (value: Amount | null) => (value ? showAmount(value, system) : "none");
  return (
    <>
      <p className="text-[15px] text-soft">
        The shop's practice profile decides; the lead changes it there. Closed steps stay as they were judged.
      </p>
      {data.length === 0 && <p className="mt-4">No other practice would change anything here now.</p>}
      {data.map((change) => (
        <section key={change.choice + change.option} className="mt-4 border-t border-ink pt-2" aria-label={change.text}>
          <h3>{change.text}</h3>
          <p className="text-[14px] text-soft">now: {change.chosen_text}</p>
          <p className="text-[15px]">
            other: <b>{change.option_text}</b>
          </p>
          {change.steps.map((step) => (
            <div key={step.step} className="mt-2 text-[14px]">
              <p className="flex flex-wrap items-center gap-2">
                <b>{label(step.step)}</b>
                {step.word_before !== step.word_after && (
                  <>
                    <VerdictBadge word={step.word_before} step={step.step} /> becomes{" "}
                    <VerdictBadge word={step.word_after} step={step.step} />
                  </>
                )}
              </p>
              <p className="text-soft">{fill(step.headline_after, system)}</p>
              {step.figures.slice(0, 4).map((figure) => (
                <p key={worded(figure.label, system)}>
                  {worded(figure.label, system)}: {amount(figure.before)}, then <b>{amount(figure.after)}</b>
                </p>
              ))}
            </div>
          ))}
        </section>
      ))}
    </>
  );
}
