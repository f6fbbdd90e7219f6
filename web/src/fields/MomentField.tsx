import { useId } from "react";
import { factsOf, type Where } from "../api/fields.ts";
import { fill } from "../format/quantity.ts";
import { at, pathOf, useIsAsked, useIsClosed, useJob } from "../job/context.ts";
import { DisputeNote } from "./Dispute.tsx";

type Props = { step: Where; keys: string[]; label?: string; className?: string; now?: string };

/** A moment as a time input of this device writes it. */
export function localInput(moment: string): string {
  const time = new Date(moment);
  return new Date(time.getTime() - time.getTimezoneOffset() * 60_000).toISOString().slice(0, 19);
}

/** When something was done: the clock at a tap, or another time. */
export function MomentField({ step, keys, label, className, now = "Now" }: Props) {
  const job = useJob();
  const id = useId();
  const path = pathOf(job.answer.job, step, keys);
  const asked = useIsAsked(path);
  const closed = useIsClosed(step) && !asked;
  const stored = at(job.answer.job, path) as string | null;
  const draft = job.drafts[path];
  const value = draft ? (draft.value as string | null) : stored;
  const problem = job.problems[path];
  const facts = factsOf(step, keys);
  const say = (moment: Date | null) => job.type(path, moment ? moment.toISOString() : null, { ready: true });
  return (
    <div className={className} data-field={keys.join(".")}>
      <label className="lab block" htmlFor={id}>
        {label ?? facts.label}
      </label>
      <div className="flex items-end gap-2">
        <input
          id={id}
          type="datetime-local"
          step={1}
          className="control min-w-0 text-[16px]"
          style={{ fontSize: 16 }}
          value={value ? localInput(value) : ""}
          disabled={closed}
          aria-invalid={problem ? true : undefined}
          onChange={(event) => say(event.target.value ? new Date(event.target.value) : null)}
        />
        {!closed && !value && (
          <button type="button" className="btn shrink-0" onClick={() => say(new Date())}>
            {now}
          </button>
        )}
      </div>
      <div className="mb-1 min-h-[19px] text-[14px]">
        {problem && (
          <p className="font-medium text-stop" role="alert">
            {fill(problem.message, job.system)}
          </p>
        )}
      </div>
      <DisputeNote path={path} />
    </div>
  );
}
