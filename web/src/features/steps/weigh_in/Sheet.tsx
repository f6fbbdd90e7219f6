import { useState } from "react";
import type { Figure, StepResult } from "../../../api/types.ts";
import { ChoiceField, EntryField, YesNoField } from "../../../fields/index.ts";
import { fill } from "../../../format/message.ts";
import { show, showSpread } from "../../../format/quantity.ts";
import { at, pathOf, useJob, useStep } from "../../../job/context.ts";
import { PlanList } from "../../../parts/PlanList.tsx";
import { Remarks } from "../../../parts/Remarks.tsx";
import { Weight } from "../../../parts/Weight.tsx";
import { Why } from "../../../parts/Why.tsx";
import { Toggle } from "../../../ui/Toggle.tsx";
import { AT_WEIGH_IN, FollowScale, useFollowing } from "../../job/Following.tsx";
import { StepFrame } from "../../job/StepFrame.tsx";
import { Cylinders } from "./Cylinders.tsx";

const STEP = "weigh_in" as const;
const figureOf = (result: StepResult, id: string): Figure | undefined => result.figures.find((f) => f.id === id);

export function WeighInSheet() {
  const { answer, system } = useJob();
  const { picture } = useStep(STEP);
  const read = (key: string) => at(answer.job, pathOf(answer.job, STEP, [key]));
  const kind = at(answer.job, pathOf(answer.job, "identify", ["kind"])) ?? at(answer.job, "/circuit/plate/kind");
  const state = read("system_state");
  return (
    <StepFrame
      step={STEP}
      sub="Cylinder on the scale, hose purged, system under vacuum and isolated."
      done="It is in: go to Verify"
      first={<Head />}
    >
      <PlanList rows={picture.plan} system={system} title="In this order" />
      <Remarks notes={picture.notes} system={system} />
      <div className="mt-4 grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <ChoiceField step={STEP} keys={["system_state"]} className={state === "holding" ? "" : "col-span-2"} />
        {(state === "holding" || state === "precharged") && <EntryField step={STEP} keys={["inside"]} how />}
        <EntryField step={STEP} keys={["scale_step"]} hint="½ oz on most" />
      </div>
      {kind === "chiller" && <YesNoField step={STEP} keys={["water_safe"]} />}
      <Cylinders />
      {state === "empty" && <Today />}
    </StepFrame>
  );
}

/** The live scale where one posts for the draw at hand, else the mark to act on. */
function Head() {
  const live = useFollowing(STEP);
  return live ? <FollowScale {...live} place={AT_WEIGH_IN} /> : <ActOn />;
}

/** What the range in which liquid stops by itself hangs on. */
function Today() {
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">
        Where it stops by itself today
      </legend>
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <EntryField step={STEP} keys={["system_temperature"]} hint="where liquid would gather" />
        <EntryField step={STEP} keys={["cylinder_temperature"]} hint="sets its pressure" />
        <EntryField step={STEP} keys={["volume"]} how hint="if empty: estimated" />
        <ChoiceField step={STEP} keys={["warmed_by"]} hint="never a flame, never over 125 °F" />
      </div>
    </fieldset>
  );
}

/** The one number to act on: where to shut the valve; afterwards what is in. */
export function ActOn() {
  const { system } = useJob();
  const result = useStep(STEP);
  const [reading, setReading] = useState("gross");
  const inside = figureOf(result, "inside");
  const close = figureOf(result, reading === "gross" ? "close_at" : "close_counted");
  const toWeigh = figureOf(result, "to_weigh");
  if (inside) {
    return (
      <div>
        <p className="text-[16px] font-semibold text-copper">In the system</p>
        <div className="flex flex-wrap items-start justify-between gap-3">
          <Weight kg={inside.amount.value} system={system} label="in the system" />
          <Why figure={inside} system={system} />
        </div>
      </div>
    );
  }
  if (!close) {
    return (
      <div>
        <p className="text-[16px] font-semibold text-copper">{toWeigh ? "To weigh in" : "The mark stands here"}</p>
        {toWeigh ? (
          <Weight
            kg={toWeigh.amount.value}
            system={system}
            label="to weigh in"
            spread={showSpread(toWeigh.amount, system)}
          />
        ) : (
          <p className="text-soft">{fill(result.verdict.headline, system)}</p>
        )}
      </div>
    );
  }
  return (
    <div>
      {result.verdict.word === "Stop" ? (
        <p className="text-[16px] font-semibold text-stop">Not yet: see Stop. The mark would be</p>
      ) : (
        <p className="text-[16px] font-semibold text-copper">Close the valve when the scale reads</p>
      )}
      <div className="flex flex-wrap items-start justify-between gap-3">
        <Weight kg={close.amount.value} system={system} label="close the valve at" />
        <span className="flex items-center gap-2">
          <Toggle
            label="Reading of the scale"
            value={reading}
            options={{ gross: "Gross", counted: "From zero" }}
            onChange={setReading}
          />
          <Why figure={close} system={system} />
        </span>
      </div>
      {toWeigh && (
        <p className="mt-2 border-t border-rule pt-2 text-[14px] text-soft">
          <b className="num text-[17px] text-ink">{show(toWeigh.amount.value, "mass", system)}</b> go into the system{" "}
          {showSpread(toWeigh.amount, system)}
        </p>
      )}
    </div>
  );
}
