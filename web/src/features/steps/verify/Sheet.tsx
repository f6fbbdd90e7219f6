import { Causes } from "../../../fields/Causes.tsx";
import { at, useJob, useStep } from "../../../job/context.ts";
import { BeforeAfter } from "../../../parts/BeforeAfter.tsx";
import { Remarks } from "../../../parts/Remarks.tsx";
import { TrimTape } from "../../../parts/TrimTape.tsx";
import { Checks } from "../../job/Checks.tsx";
import { changeOf } from "../../job/change.ts";
import { StepFrame } from "../../job/StepFrame.tsx";
import { Unsteady } from "../../job/Unsteady.tsx";
import { Entries } from "./Entries.tsx";
import { Bands, Trims } from "./Judged.tsx";
import { Next } from "./Next.tsx";
import { Prepared } from "./Prepared.tsx";
import { Timeline } from "./Timeline.tsx";

const STEP = "verify" as const;

export function VerifySheet() {
  const { answer, system } = useJob();
  const { picture } = useStep(STEP);
  const plate = (key: string) =>
    at(answer.job, `/steps/identify/runs/0/sheet/${key}`) ?? at(answer.job, `/circuit/plate/${key}`);
  const metering = plate("metering");
  const change = changeOf(answer.job);
  const kind = String(plate("kind") ?? "");
  return (
    <StepFrame
      step={STEP}
      sub={SUBS[String(metering)] ?? "Weight first, then the running unit proves it."}
      done="Proven: go to Close out"
    >
      <Next />
      {picture.tape && picture.bands.length > 0 && (
        <div className="mx-auto mb-3 max-w-[300px] md:hidden">
          <TrimTape tape={picture.tape} rows={picture.trims} system={system} height={240} />
        </div>
      )}
      <Timeline />
      <Bands />
      <Trims />
      <HandedOver />
      <Remarks notes={picture.causes.length ? [] : picture.notes} system={system} />
      {change && <BeforeAfter rows={picture.before_after} from={change.from} to={change.to} system={system} />}
      <div className="mt-4 grid gap-x-8 gap-y-3 xl:grid-cols-2">
        <div className="order-1 xl:order-2">
          <Prepared kind={kind} orifice={metering === "orifice"} />
        </div>
        <div className="order-2 xl:order-1">
          <Unsteady step={STEP} />
          <Entries kind={kind} orifice={metering === "orifice"} />
        </div>
      </div>
    </StepFrame>
  );
}

const SUBS: Record<string, string> = {
  txv: "Expansion valve: subcooling judges the charge; superheat must be in its usual range.",
  eev: "Electronic valve: subcooling judges the charge; superheat must be in its usual range.",
  orifice: "Fixed orifice: superheat judges the charge; the target moves with the weather.",
  capillary: "Capillary: weight is the proof.",
};

/** The charge is not the fault: every reading goes to diagnosis, and its next check is made here. */
function HandedOver() {
  const { system } = useJob();
  const { picture } = useStep(STEP);
  if (!picture.causes.length) return null;
  return (
    <section aria-label="Not the charge" className="mt-4" data-testid="handed-over">
      <h2>Not the charge: what else it can be</h2>
      <Remarks notes={picture.notes} system={system} />
      <Causes causes={picture.causes} />
      <Checks step={STEP} />
    </section>
  );
}
