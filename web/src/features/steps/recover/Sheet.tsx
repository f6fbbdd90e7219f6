import { ChoiceField, EntryField } from "../../../fields/index.ts";
import { worded } from "../../../format/message.ts";
import { show, showAmount } from "../../../format/quantity.ts";
import { useJob, useStep } from "../../../job/context.ts";
import { Weight } from "../../../parts/Weight.tsx";
import { Why } from "../../../parts/Why.tsx";
import { StepFrame } from "../../job/StepFrame.tsx";
import { HandedDown, PumpDown } from "./After.tsx";
import { IntoCylinders } from "./Cylinders.tsx";
import { figureOf, STEP, useValue } from "./shared.ts";

export default function RecoverSheet() {
  const way = useValue("way");
  return (
    <StepFrame
      step={STEP}
      sub="Check the room in the cylinder first. The weight counts once it is all out."
      done="It is out: go on"
      first={<ActOn />}
    >
      <div className="mt-3 grid gap-x-8 md:grid-cols-2">
        <ChoiceField step={STEP} keys={["way"]} />
        <EntryField step={STEP} keys={["told"]} hint="for planning, not for proof" />
      </div>
      {way === "pump_down" && <PumpDown />}
      {way === "cylinder" && <IntoCylinders />}
      {way === "handed" && <HandedDown />}
    </StepFrame>
  );
}

/** What to expect before, what is out while it runs, and its share when it is over. */
function ActOn() {
  const { system } = useJob();
  const way = useValue("way");
  const result = useStep(STEP);
  const recovered = figureOf(result, "recovered");
  const share = figureOf(result, "share");
  const plate = figureOf(result, "plate_share");
  const missing = figureOf(result, "missing");
  const low = figureOf(result, "expected_low");
  const high = figureOf(result, "expected_high");
  if (recovered) {
    return (
      <div>
        <p className="text-[16px] font-semibold text-copper">{share ? "Recovered" : "On the scale so far"}</p>
        <div className="flex flex-wrap items-start justify-between gap-3">
          <Weight kg={recovered.amount.value} system={system} label="recovered" />
          <Why figure={recovered} system={system} />
        </div>
        {share && missing && (
          <p className="mt-1 text-[15px]" data-testid="share">
            <b>{show(share.amount.value, "fraction", system)}</b> of what belongs there, {worded(missing.label, system)}{" "}
            <b>{showAmount(missing.amount, system)}</b>
            {plate && (
              <span className="text-soft"> · {show(plate.amount.value, "fraction", system)} of the plate alone</span>
            )}
            <Why figure={share} system={system} />
          </p>
        )}
      </div>
    );
  }
  if (low && high) {
    return (
      <p className="flex flex-wrap items-baseline gap-x-2 text-[16px]" data-testid="expected">
        <span className="font-semibold text-copper">Expect</span>
        <span className="num text-[26px]">{show(low.amount.value, "mass", system)}</span> to
        <span className="num text-[26px]">{show(high.amount.value, "mass", system)}</span>
        <Why figure={high} system={system} />
      </p>
    );
  }
  if (way === "handed" || result.verdict.word === "Holds") return null;
  return <p className="text-soft">What to expect stands here once Identify knows the full charge.</p>;
}
