import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { useStep } from "../../../job/context.ts";
import { Decisions } from "../Decisions.tsx";
import { STEP, useValue } from "./shared.ts";

/** Level and rise, then what becomes of it. */
export function After() {
  const use = useValue("use");
  const result = useStep(STEP);
  const disputed = result.verdict.reasons.some((r) => r.rule_id === "recovered.use" && r.word !== "Holds");
  return (
    <>
      <fieldset className="mt-2">
        <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">
          Is it really out? Wait, and read again
        </legend>
        <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
          <EntryField step={STEP} keys={["end_pressure"]} />
          <EntryField step={STEP} keys={["waited"]} />
          <EntryField step={STEP} keys={["risen_to"]} />
          <EntryField step={STEP} keys={["residue"]} how />
        </div>
        <YesNoField step={STEP} keys={["frost"]} />
      </fieldset>
      <fieldset className="mt-2">
        <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">What happens to it</legend>
        <div className="grid gap-x-8 md:grid-cols-2">
          <div>
            <ChoiceField step={STEP} keys={["use"]} />
            <ChoiceField step={STEP} keys={["acid"]} />
          </div>
          <div>
            <YesNoField step={STEP} keys={["burnout"]} />
            {useValue("burnout") === null && <YesNoField step={STEP} keys={["burnout_unknown"]} />}
            <YesNoField step={STEP} keys={["same_owner"]} />
          </div>
        </div>
        {use === "other_circuit" && (
          <div className="grid grid-cols-2 gap-x-5">
            <TextField step={STEP} keys={["to_circuit"]} hint="its code, as on its record" />
            <EntryField step={STEP} keys={["to_circuit_mass"]} how hint="by the scale, not by what somebody said" />
          </div>
        )}
      </fieldset>
      {disputed && <Decisions step="recover" />}
    </>
  );
}

export function PumpDown() {
  const finished = useValue("finished") === true;
  return (
    <fieldset className="mt-2">
      <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">
        Pumped down: liquid valve shut, run to about zero, then the suction valve
      </legend>
      <div className="grid gap-x-8 md:grid-cols-2">
        <div>
          <YesNoField step={STEP} keys={["compressor_runs"]} />
          <YesNoField step={STEP} keys={["low_breach"]} />
        </div>
        <div>
          <YesNoField step={STEP} keys={["small_condenser"]} />
          <YesNoField step={STEP} keys={["into_vacuum"]} />
        </div>
      </div>
      <YesNoField step={STEP} keys={["finished"]} />
      {finished && <EntryField step={STEP} keys={["shut_at"]} hint="slightly above zero" className="max-w-[260px]" />}
    </fieldset>
  );
}

/** Another firm took it out: who, and what its sheet says. */
export function HandedDown() {
  return (
    <fieldset className="mt-2">
      <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">What its sheet says</legend>
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <TextField step={STEP} keys={["firm"]} hint="who recovered it" />
        <EntryField step={STEP} keys={["end_pressure"]} />
        <EntryField step={STEP} keys={["waited"]} />
        <EntryField step={STEP} keys={["risen_to"]} />
      </div>
      <YesNoField step={STEP} keys={["finished"]} />
    </fieldset>
  );
}
