import { ChoiceField, EntryField, YesNoField } from "../../../fields/index.ts";
import { MomentField } from "../../../fields/MomentField.tsx";
import { at, pathOf, useJob } from "../../../job/context.ts";

const STEP = "verify" as const;
const BOXED = ["reach_in", "receiver"];

/** Right before it is judged: what runs, since when, and what must be clean, open and loaded. */
export function Prepared({ kind, orifice }: { kind: string; orifice: boolean }) {
  const { answer } = useJob();
  const read = (key: string) => at(answer.job, pathOf(answer.job, STEP, [key]));
  return (
    <fieldset className="mb-3">
      <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">
        Right before it is judged
      </legend>
      <div className="grid gap-x-8 md:grid-cols-2 xl:grid-cols-1">
        <div className="grid grid-cols-2 gap-x-5">
          <ChoiceField step={STEP} keys={["mode"]} />
          <EntryField
            step={STEP}
            keys={["run_in"]}
            hint={read("started_at") ? "the start counts" : "or when it started"}
          />
          <MomentField step={STEP} keys={["started_at"]} now="It starts now" className="col-span-2" />
          {orifice && (
            <EntryField
              step={STEP}
              keys={["chart_superheat"]}
              hint="if the unit has one; it beats the formula"
              className="col-span-2"
            />
          )}
        </div>
        <div>
          <YesNoField step={STEP} keys={["filter_ok"]} />
          <YesNoField step={STEP} keys={["coils_ok"]} />
          <YesNoField step={STEP} keys={["doors_ok"]} label={DOORS[kind]} />
          {kind !== "vehicle" && <YesNoField step={STEP} keys={["load_ok"]} label={LOADS[kind]} />}
          {kind === "heat_pump" && <YesNoField step={STEP} keys={["both_modes"]} />}
          {kind === "receiver" && (
            <div className="grid grid-cols-2 gap-x-5">
              <ChoiceField step={STEP} keys={["sight_glass"]} hint="at load, after a defrost" />
              <EntryField step={STEP} keys={["receiver_level"]} hint="once it is pumped down" />
            </div>
          )}
          {BOXED.includes(kind) && (
            <p className="text-[14px] text-soft">
              Judged with the box at its temperature, not while it is pulled down.
            </p>
          )}
        </div>
      </div>
    </fieldset>
  );
}

const DOORS: Record<string, string> = {
  vehicle: "windows open, vents centred, rear on",
  reach_in: "door shut",
  receiver: "doors shut, fans free",
  chiller: "water flows as it should",
};
const LOADS: Record<string, string> = {
  receiver: "at its usual load, after a defrost",
  reach_in: "loaded as usual",
  chiller: "at its usual load",
};
