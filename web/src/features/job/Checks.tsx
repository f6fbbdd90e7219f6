import type { StepName } from "../../api/fields.ts";
import type { NextCheck } from "../../api/types.ts";
import { at, pathOf, useIsClosed, useJob, useStep } from "../../job/context.ts";

/** The cheap check that separates the leaders, with what each outcome would mean; its result ranks again. */
export function Checks({ step }: { step: "as_found" | "verify" }) {
  const { next_check: check } = useStep(step).picture;
  const closed = useIsClosed(step);
  return (
    <>
      {check && (
        <section aria-label="Next check" className="mt-4 border-l-4 border-copper pl-4">
          <p className="text-[15px] font-semibold text-copper">Next, {check.minutes.toFixed(0)} minutes</p>
          <p className="text-[18px] font-semibold">{check.text}</p>
          <Meanings check={check} />
          {!closed && <Results step={step} check={check} />}
        </section>
      )}
      <DoneChecks step={step} />
    </>
  );
}

function Meanings({ check }: { check: NextCheck }) {
  const [first] = check.outcomes;
  if (first && check.outcomes.every((outcome) => outcome.meaning === first.meaning))
    return (
      <p className="mt-1 text-[14px] text-soft">
        Whatever it shows, “{first.meaning}” stays in front; it makes that surer or less sure.
      </p>
    );
  return (
    <ul className="mt-1 text-[14px] text-soft">
      {check.outcomes.map((outcome) => (
        <li key={outcome.id}>
          <b className="text-ink">{outcome.label}:</b> {outcome.meaning}
        </li>
      ))}
    </ul>
  );
}

function Results({ step, check }: { step: StepName; check: NextCheck }) {
  const { type, answer } = useJob();
  const say = (result: string) =>
    type(pathOf(answer.job, step, ["checks", check.id, "result"]), result, { ready: true });
  return (
    <p className="mt-3 flex flex-wrap gap-2">
      {check.outcomes.map((outcome) => (
        <button key={outcome.id} type="button" className="btn" onClick={() => say(outcome.id)}>
          {outcome.label}
        </button>
      ))}
      <button type="button" className="btn quiet" onClick={() => say("cannot")}>
        Cannot do it here
      </button>
    </p>
  );
}

function DoneChecks({ step }: { step: StepName }) {
  const { answer, type } = useJob();
  const closed = useIsClosed(step);
  const base = pathOf(answer.job, step, ["checks"]);
  const done = Object.entries(
    (at(answer.job, base) ?? {}) as Record<string, { result?: string; note?: string }>,
  ).filter(([, row]) => row.result);
  if (!done.length) return null;
  return (
    <ul className="mt-2 text-[14px]">
      {done.map(([id, row]) => (
        <li key={id} className="flex flex-wrap items-center gap-2">
          <span>
            Checked {id.replaceAll("_", " ")}: <b>{(row.result ?? "").replaceAll("_", " ")}</b> {row.note}
          </span>
          {!closed && (
            <button
              type="button"
              className="btn quiet"
              onClick={() => type(`${base}/${id}/result`, null, { ready: true, force: true })}
            >
              take back
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
