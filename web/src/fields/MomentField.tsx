import { useId } from "react";
import { factsOf, type Where } from "../api/fields.ts";
import { nowMs } from "../device/time.ts";
import { clock, momentFrom, written } from "../format/clock.ts";
import { fill } from "../format/message.ts";
import { at, pathOf, useIsAsked, useIsClosed, useJob } from "../job/context.ts";
import { useAhead } from "../parts/ClockNote.tsx";
import { DisputeNote } from "./Dispute.tsx";
import { usePending } from "./usePending.ts";

type Props = { step: Where; keys: string[]; label?: string; className?: string; now?: string };
const HOW = "Write it as 15:04, 3:04 pm or 18 Jun 15:04.";

/** When something was done: the clock at a tap, or another time as a person writes it. */
export function MomentField({ step, keys, label, className, now = "Now" }: Props) {
  const job = useJob();
  const id = useId();
  const path = pathOf(job.answer.job, step, keys);
  const asked = useIsAsked(path);
  const closed = useIsClosed(step) && !asked;
  const stored = at(job.answer.job, path) as string | null;
  const draft = job.drafts[path];
  const value = draft ? (draft.value as string | null) : stored;
  const off = useAhead();
  const [typed, setTyped] = usePending(`${job.answer.code}${path}`);
  const problem = job.problems[path];
  const facts = factsOf(step, keys);
  const say = (moment: Date | null) => job.type(path, moment ? moment.toISOString() : null, { ready: true });
  const unread = typed?.trim() ? momentFrom(typed, new Date(nowMs())) === null : false;
  const leave = () => {
    if (typed === null || unread) return;
    say(typed.trim() ? momentFrom(typed, new Date(nowMs())) : null);
    setTyped(null);
  };
  return (
    <div className={className} data-field={keys.join(".")}>
      <label className="lab block" htmlFor={id}>
        {label ?? facts.label}
      </label>
      <div className="flex items-end gap-2">
        <input
          id={id}
          className="control min-w-0"
          autoComplete="off"
          spellCheck={false}
          value={typed ?? (value ? written(value, new Date(nowMs())) : "")}
          disabled={closed}
          aria-invalid={problem || unread ? true : undefined}
          aria-describedby={`${id}-said`}
          onChange={(event) => setTyped(event.target.value)}
          onBlur={leave}
          onKeyDown={(event) => event.key === "Enter" && leave()}
        />
        {!closed && !value && (
          <button
            type="button"
            className="btn shrink-0"
            onClick={() => {
              setTyped(null);
              say(new Date(nowMs()));
            }}
          >
            {now}
          </button>
        )}
      </div>
      <div id={`${id}-said`} className="mb-1 min-h-[19px] text-[14px]">
        {off !== 0 && value && !unread && (
          <p className="text-soft">{clock(new Date(value).getTime() + off)} on this device</p>
        )}
        {unread ? (
          <p className="font-medium text-stop" role="alert">
            {HOW}
          </p>
        ) : (
          problem && (
            <p className="font-medium text-stop" role="alert">
              {fill(problem.message, job.system)}
            </p>
          )
        )}
      </div>
      <DisputeNote path={path} />
    </div>
  );
}
