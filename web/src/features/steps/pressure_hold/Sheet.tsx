import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { LogAside } from "../../../fields/LogAside.tsx";
import { MomentField } from "../../../fields/MomentField.tsx";
import { nextKey, Readings } from "../../../fields/Readings.tsx";
import { worded } from "../../../format/message.ts";
import { showAmount } from "../../../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../../job/context.ts";
import { Countdown } from "../../../parts/Countdown.tsx";
import { Big, BigFigure, FigureRow } from "../../../parts/FigureRow.tsx";
import { LogChart } from "../../../parts/LogChart.tsx";
import { PlanList } from "../../../parts/PlanList.tsx";
import { StepFrame } from "../../job/StepFrame.tsx";
import { WholeLog } from "../../job/WholeLog.tsx";

const STEP = "pressure_hold" as const;

export default function PressureHoldSheet() {
  const { answer, system } = useJob();
  const { picture } = useStep(STEP);
  const filled = at(answer.job, pathOf(answer.job, STEP, ["filled_at"])) !== null;
  return (
    <StepFrame
      step={STEP}
      sub="Dry nitrogen, in stages, never above the lowest stamp. Then read the drop, with the pipe temperature taken out."
      done="It holds: go on"
    >
      {filled && <Now />}
      {picture.charts.map((chart) => (
        <div key={chart.id} className="mt-4">
          <LogChart chart={chart} system={system} />
        </div>
      ))}
      {picture.charts.length > 0 && <WholeLog />}
      {filled && <Readings step={STEP} record="readings" fields={["pressure", "metal"]} go="Type a reading" />}
      <LogAside step={STEP} record="readings" />
      <PlanList rows={picture.plan} system={system} title="In this order" />
      <Fill />
      <Plan open={!filled} />
    </StepFrame>
  );
}

/** The few numbers while it holds. */
function Now() {
  const { system } = useJob();
  const { figures, waiting } = useStep(STEP);
  const figure = (id: string) => figures.find((f) => f.id === id);
  const [low, high] = [figure("leak_low"), figure("leak_high")];
  return (
    <FigureRow>
      <BigFigure figure={figure("now")} system={system} />
      <BigFigure figure={figure("expected")} system={system} />
      <BigFigure figure={figure("drop")} system={system} />
      {waiting && (
        <Big label={`${waiting.decides}, in`} accent>
          <Countdown until={waiting.until} />
        </Big>
      )}
      {low && high && (
        <Big label={worded(high.label, system)}>
          {showAmount(low.amount, system, [high.amount]).split(" ")[0]} to{" "}
          {showAmount(high.amount, system, [low.amount])}
        </Big>
      )}
      <BigFigure figure={figure("longer")} system={system} />
    </FigureRow>
  );
}

function Fill() {
  return (
    <div className="mt-4 grid gap-x-8 md:grid-cols-2">
      <MomentField step={STEP} keys={["filled_at"]} label="at test pressure, valve shut" now="Shut now" />
      <ChoiceField step={STEP} keys={["bubbles"]} hint="a hold alone does not show a small leak" />
      <MomentField step={STEP} keys={["let_down_at"]} label="let down again" now="Let down now" />
    </div>
  );
}

/** What must be known before the bottle is opened; folds away once it is filled. */
function Plan({ open }: { open: boolean }) {
  return (
    <details className="mt-3" open={open}>
      <summary className="min-h-[44px] cursor-pointer py-3 text-[15px] font-semibold">
        Before the bottle is opened: stamps, nitrogen, gauge
      </summary>
      <Stamps />
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <EntryField step={STEP} keys={["test_pressure"]} hint="never above the lowest stamp" />
        <EntryField step={STEP} keys={["searched_at"]} hint="hold at least at this" />
        <EntryField step={STEP} keys={["volume"]} how hint="if empty: estimated" />
        <EntryField step={STEP} keys={["see_leak"]} hint="then it tells how long to hold" />
        <ChoiceField step={STEP} keys={["gas"]} />
        <ChoiceField step={STEP} keys={["fed"]} />
        <ChoiceField step={STEP} keys={["metal_by"]} hint="makes the ± ten times smaller" />
        <EntryField step={STEP} keys={["gauge_step"]} hint="the last digit it shows" />
        <EntryField step={STEP} keys={["bottle_volume"]} hint="water volume stamped on its neck" />
        <ChoiceField step={STEP} keys={["bottle_size"]} />
        <EntryField step={STEP} keys={["bottle_pressure"]} />
      </div>
      <YesNoField step={STEP} keys={["regulator"]} className="max-w-[460px]" />
      <YesNoField step={STEP} keys={["from_low"]} className="max-w-[460px]" />
    </details>
  );
}

function Stamps() {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  const rows = useRows(STEP, "stamps", ["s1"]);
  return (
    <fieldset>
      <legend className="lab">Stamped on what is connected: plate, coil, switches, relief</legend>
      {rows.map((key) => (
        <div key={key} className="grid grid-cols-2 gap-x-5">
          <TextField step={STEP} keys={["stamps", key, "label"]} />
          <EntryField step={STEP} keys={["stamps", key, "pressure"]} how />
        </div>
      ))}
      {!closed && (
        <button
          type="button"
          className="btn quiet"
          onClick={() => type(pathOf(answer.job, STEP, ["stamps", nextKey(rows, "s")]), {}, { ready: true })}
        >
          Another stamp
        </button>
      )}
      {rows.every((key) => at(answer.job, pathOf(answer.job, STEP, ["stamps", key, "pressure"])) === null) && (
        <YesNoField step={STEP} keys={["no_stamp"]} className="max-w-[460px]" />
      )}
    </fieldset>
  );
}
