import { useState } from "react";
import type { Figure, StepResult } from "../../../api/types.ts";
import { fill, show, showSpread } from "../../../format/quantity.ts";
import { ChoiceField, EntryField, TextField } from "../../../parts/fields.tsx";
import { Weight } from "../../../parts/Weight.tsx";
import { Why } from "../../../parts/Why.tsx";
import { Toggle } from "../../../ui/Toggle.tsx";
import { at, pathOf, useJob, useRows, useStep } from "../../job/context.ts";
import { StepFrame } from "../../job/StepFrame.tsx";

const STEP = "weigh_in" as const;
const figureOf = (result: StepResult, id: string): Figure | undefined => result.figures.find((f) => f.id === id);

export function WeighInSheet() {
  const { answer } = useJob();
  const [row] = useRows(STEP, "draws", ["d1"]);
  const key = row ?? "d1";
  const state = at(answer.job, pathOf(answer.job, STEP, ["system_state"]));
  return (
    <StepFrame
      step={STEP}
      sub="Cylinder on the scale, hose purged, system under vacuum and isolated."
      done="It is in: go to Verify"
    >
      <ActOn />
      <div className="mt-4 grid gap-x-8 md:grid-cols-2">
        <fieldset>
          <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">
            Before the valve is opened
          </legend>
          <div className="grid grid-cols-2 gap-x-5">
            <ChoiceField step={STEP} keys={["system_state"]} className={state === "holding" ? "" : "col-span-2"} />
            {(state === "holding" || state === "precharged") && <EntryField step={STEP} keys={["inside"]} />}
            <TextField step={STEP} keys={["draws", key, "cylinder"]} hint="number or name on it" />
            <EntryField step={STEP} keys={["draws", key, "gross_start"]} />
            <EntryField step={STEP} keys={["draws", key, "tare"]} hint="stamped TW, or weighed empty" />
            <EntryField step={STEP} keys={["draws", key, "hose_loss"]} hint="0 if the hose stays full" />
          </div>
        </fieldset>
        <fieldset>
          <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">
            When the valve is shut
          </legend>
          <div className="grid grid-cols-2 gap-x-5">
            <EntryField
              step={STEP}
              keys={["draws", key, "gross_end"]}
              hint="gross, cylinder still on"
              className="col-span-2"
            />
            <EntryField step={STEP} keys={["scale_step"]} hint="½ oz on most" />
            <EntryField step={STEP} keys={["draws", key, "water_capacity"]} hint="stamped WC, if known" />
          </div>
        </fieldset>
      </div>
    </StepFrame>
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
