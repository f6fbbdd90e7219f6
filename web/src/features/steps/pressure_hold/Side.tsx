import { at, pathOf, useJob, useStep } from "../../../job/context.ts";
import { ClockTape, type Moment } from "../../../parts/ClockTape.tsx";

/** The hold on the clock: filled, settled, told. */
export default function PressureHoldSide() {
  const { answer } = useJob();
  const { waiting, picture } = useStep("pressure_hold");
  const filled = at(answer.job, pathOf(answer.job, "pressure_hold", ["filled_at"])) as string | null;
  const chart = picture.charts[0];
  const moments: Moment[] = [];
  if (filled) moments.push({ at: filled, label: "filled, shut" });
  if (filled && chart) {
    const settled = new Date(new Date(filled).getTime() + chart.not_judged_s * 1000);
    moments.push({ at: settled.toISOString(), label: "settled" });
  }
  if (waiting) moments.push({ at: waiting.until, label: waiting.decides, kind: "decide" });
  return (
    <div>
      <h2 className="mb-2 text-soft">The clock</h2>
      <ClockTape moments={moments} />
    </div>
  );
}
