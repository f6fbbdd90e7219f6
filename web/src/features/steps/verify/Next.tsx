import type { Figure } from "../../../api/types.ts";
import { nextKey } from "../../../fields/Readings.tsx";
import { worded } from "../../../format/message.ts";
import { show } from "../../../format/quantity.ts";
import { pathOf, useIsClosed, useJob, useRows, useStep } from "../../../job/context.ts";
import { Countdown } from "../../../parts/Countdown.tsx";
import { Weight } from "../../../parts/Weight.tsx";
import { Why } from "../../../parts/Why.tsx";
import { measured } from "../../job/captures.ts";
import { AT_VERIFY, FollowScale, useFollowing } from "../../job/Following.tsx";

const STEP = "verify" as const;

/** What to do now: wait, add or take out so much, or nothing; at the live scale, its mark. */
export function Next() {
  const { waiting, figures, state } = useStep(STEP);
  const live = useFollowing(STEP);
  const step = figures.find((f) => f.id === "trim_step");
  if (live) return <FollowScale {...live} place={AT_VERIFY} />;
  if (waiting && state === "open")
    return (
      <div className="mb-4" data-testid="waits">
        <p className="text-[16px] font-semibold text-wait">
          {waiting.decides === "readings count" ? "It runs in; readings speak in" : "It settles; the next reading in"}
        </p>
        <p className="big">
          <Countdown until={waiting.until} />
        </p>
      </div>
    );
  return step ? <Step step={step} /> : null;
}

function Step({ step }: { step: Figure }) {
  const { system } = useJob();
  const { tape, takes_out: out } = useStep(STEP).picture;
  return (
    <div className="mb-4">
      <p className="text-[16px] font-semibold text-copper">
        {out ? "Take out, then let it settle and read again" : "Add, then let it settle and read again"}
      </p>
      <div className="flex flex-wrap items-start justify-between gap-3">
        <Weight kg={step.amount.value} system={system} label={worded(step.label, system)} />
        <Why figure={step} system={system} />
      </div>
      {tape?.close_gross_kg != null ? (
        <p className="mt-2 text-[16px] font-semibold text-copper" data-testid="close-at">
          close when the scale reads{" "}
          <span className="num text-[24px]">{show(tape.close_gross_kg, "mass", system)}</span>
        </p>
      ) : (
        <p className="mt-1 text-[14px] text-soft">
          {!out
            ? "Throttled, into the suction side, the unit running."
            : "Into a recovery cylinder with room, on the scale."}
        </p>
      )}
      <Begin add={!out} />
    </div>
  );
}

/** A row for the step: its cylinder goes on the scale first. */
function Begin({ add }: { add: boolean }) {
  const { answer, live, system, type } = useJob();
  const closed = useIsClosed(STEP);
  const rows = useRows(STEP, "readings", ["r1"]);
  const { trims } = useStep(STEP).picture;
  const last = trims[trims.length - 1];
  const pending = last !== undefined && last.superheat === null && last.subcooling === null;
  if (closed || pending) return null;
  const begin = () => {
    const scale = live.scale;
    const fields = scale ? { gross_before: measured(scale, "mass", system) } : {};
    type(pathOf(answer.job, STEP, ["readings", nextKey(rows, "r")]), fields, { ready: true });
  };
  return (
    <p className="mt-3">
      <button type="button" className="btn go" onClick={begin}>
        {add ? "Add on the scale" : "Take out on the scale"}
      </button>
    </p>
  );
}
