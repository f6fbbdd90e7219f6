import forms from "../../../api/forms.gen.json";
import { Causes } from "../../../fields/Causes.tsx";
import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { worded } from "../../../format/message.ts";
import { show, showAmount } from "../../../format/quantity.ts";
import { at, pathOf, useJob, useStep } from "../../../job/context.ts";
import { Remarks } from "../../../parts/Remarks.tsx";
import { Why } from "../../../parts/Why.tsx";
import { Checks } from "../../job/Checks.tsx";
import { StepFrame } from "../../job/StepFrame.tsx";

const STEP = "as_found" as const;
/** Kinds that nobody asks whether they cool or heat. */
const ONLY_COOL = forms.kinds.only_cool as string[];

function useValue(key: string): unknown {
  const { answer, drafts } = useJob();
  const path = pathOf(answer.job, STEP, [key]);
  return drafts[path] ? drafts[path].value : at(answer.job, path);
}

function usePlate(key: string): unknown {
  const { answer } = useJob();
  return at(answer.job, `/steps/identify/runs/0/sheet/${key}`) ?? at(answer.job, `/circuit/plate/${key}`);
}

export default function AsFoundSheet() {
  return (
    <StepFrame
      step={STEP}
      sub="How you found it, before anything is changed. Standing pressure first, then running."
      done="Seen: go on"
    >
      <Unit />
      <Readings />
      <Causes causes={useStep(STEP).picture.causes} />
      <Checks step={STEP} />
      <Past />
    </StepFrame>
  );
}

/** Standing, and how it runs. */
function Unit() {
  const running = useValue("running");
  const kind = usePlate("kind");
  const settled = running === "settled";
  return (
    <fieldset>
      <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">Standing, then running</legend>
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-5">
        <EntryField step={STEP} keys={["standing_pressure"]} hint="off, and equalized" />
        <EntryField step={STEP} keys={["standing_cold"]} />
        <ChoiceField step={STEP} keys={["running"]} />
        {running !== "off" && !ONLY_COOL.includes(String(kind)) && <ChoiceField step={STEP} keys={["mode"]} />}
        {settled ? (
          <EntryField step={STEP} keys={["run_time"]} />
        ) : (
          <EntryField step={STEP} keys={["volume"]} hint="if known, for what is left" />
        )}
      </div>
    </fieldset>
  );
}

/** The three columns, in the order they are read off; each result stands under the entries that make it. */
function Readings() {
  const mode = useValue("mode");
  const running = useValue("running");
  const kind = usePlate("kind");
  const box = ["reach_in", "receiver", "chiller"].includes(String(kind));
  if (running === "off") return null;
  if (running === "cycling") return <ShortTurns />;
  const heating = mode === "heating";
  return (
    <>
      <div className="mt-2 grid gap-x-6 md:grid-cols-3">
        <fieldset>
          <legend
            className="mb-1 w-full border-b pb-1 text-[15px] font-semibold"
            style={{ color: heating ? "var(--high)" : "var(--low)", borderColor: "var(--ink)" }}
          >
            {heating ? "Vapour port, the high side" : "Low side"}
          </legend>
          <div className="grid grid-cols-2 gap-x-3">
            <EntryField step={STEP} keys={["suction_pressure"]} label={heating ? "vapour port" : "suction"} />
            <EntryField step={STEP} keys={["suction_line"]} label={heating ? "vapour line" : "suction line"} />
            {heating && (
              <EntryField step={STEP} keys={["true_suction"]} label="true suction" hint="at the compressor" />
            )}
            <EntryField step={STEP} keys={["amps"]} label="amps" />
            <EntryField step={STEP} keys={["rated_amps"]} label="rated amps" />
          </div>
          <Derived id="superheat" colour="var(--low)" />
          {heating && <Derived id="evaporating" colour="var(--low)" />}
          <Derived id="under" />
        </fieldset>
        <fieldset>
          <legend
            className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold"
            style={{ color: "var(--high)" }}
          >
            High side
          </legend>
          <div className="grid grid-cols-2 gap-x-3">
            <EntryField step={STEP} keys={["liquid_pressure"]} label="liquid" />
            <EntryField step={STEP} keys={["liquid_line"]} />
            <EntryField step={STEP} keys={["outdoor"]} label="outdoor air" hint="into the coil" />
            {kind === "receiver" && <ChoiceField step={STEP} keys={["sight_glass"]} />}
          </div>
          <Derived id="subcooling" colour="var(--high)" />
          <Derived id="over" />
        </fieldset>
        <fieldset>
          <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">Indoor air</legend>
          <div className="grid grid-cols-2 gap-x-3">
            <EntryField step={STEP} keys={["return_air"]} label={box ? "room air" : "return"} />
            {!box && <EntryField step={STEP} keys={["return_wet_bulb"]} label="wet bulb" />}
            {!box && <EntryField step={STEP} keys={["supply"]} label="supply" />}
            {box && <EntryField step={STEP} keys={["box"]} />}
          </div>
          <Derived id="split" />
        </fieldset>
      </div>
      <div className="grid gap-x-8 md:grid-cols-2">
        <YesNoField step={STEP} keys={["iced"]} />
        <YesNoField step={STEP} keys={["inverter"]} />
      </div>
    </>
  );
}

/** A unit that will not keep running: what stops it is all it says, and its gauges between are not taken. */
function ShortTurns() {
  return (
    <fieldset className="mt-2">
      <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">What stops it</legend>
      <div className="grid gap-x-5 md:grid-cols-3">
        <ChoiceField step={STEP} keys={["cycles_on"]} />
        <EntryField step={STEP} keys={["suction_pressure"]} label="suction, from" hint="if it swings" />
        <EntryField step={STEP} keys={["suction_swing"]} label="and up to" />
      </div>
      <YesNoField step={STEP} keys={["iced"]} />
    </fieldset>
  );
}

function Derived({ id, colour }: { id: string; colour?: string }) {
  const { system } = useJob();
  const figure = useStep(STEP).figures.find((f) => f.id === id);
  if (!figure) return null;
  return (
    <p className="flex items-baseline justify-between gap-2 border-t border-rule py-1" data-testid={`derived-${id}`}>
      <span className="text-[15px] font-semibold">{worded(figure.label, system)}</span>
      <span className="flex items-baseline">
        <span className="num text-[24px] whitespace-nowrap" style={{ color: colour }}>
          {show(figure.amount.value, figure.amount.quantity, system)}
        </span>
        <Why figure={figure} system={system} />
      </span>
    </p>
  );
}

/** What cannot be true, what was told of before, and the same unit when it was right. */
function Past() {
  const { system } = useJob();
  const { picture } = useStep(STEP);
  return (
    <>
      <TextField step={STEP} keys={["history"]} hint="for information only" className="mt-3" />
      <Remarks notes={picture.notes} system={system} />
      {picture.compared.length > 0 && (
        <table className="table mt-3">
          <caption className="text-left text-[15px] font-semibold">The same unit when it was proven</caption>
          <thead>
            <tr>
              <th>figure</th>
              <th>then</th>
              <th>now</th>
            </tr>
          </thead>
          <tbody>
            {picture.compared.map((row) => (
              <tr key={row.label}>
                <td>{row.label}</td>
                <td>{showAmount(row.then, system)}</td>
                <td>{showAmount(row.now, system)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
