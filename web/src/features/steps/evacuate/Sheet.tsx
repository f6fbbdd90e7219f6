import { nowMs } from "../../../device/time.ts";
import { Causes } from "../../../fields/Causes.tsx";
import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { LogAside } from "../../../fields/LogAside.tsx";
import { MomentField } from "../../../fields/MomentField.tsx";
import { nextKey, Readings } from "../../../fields/Readings.tsx";
import { fill } from "../../../format/message.ts";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../../job/context.ts";
import { Countdown } from "../../../parts/Countdown.tsx";
import { Big, BigFigure, FigureRow } from "../../../parts/FigureRow.tsx";
import { LogChart } from "../../../parts/LogChart.tsx";
import { PlanList } from "../../../parts/PlanList.tsx";
import { Remarks } from "../../../parts/Remarks.tsx";
import { StepFrame } from "../../job/StepFrame.tsx";
import { WholeLog } from "../../job/WholeLog.tsx";

const STEP = "evacuate" as const;
type Done = { row: string; do: string; at: string };

/** Everything done to it so far, in order. */
export function useEvents(): Done[] {
  const { answer } = useJob();
  const rows = useRows(STEP, "events", []);
  const base = (row: string, field: string) => at(answer.job, pathOf(answer.job, STEP, ["events", row, field]));
  return rows
    .map((row) => ({ row, do: String(base(row, "do") ?? ""), at: String(base(row, "at") ?? "") }))
    .filter((event) => event.do && event.at)
    .sort((a, b) => a.at.localeCompare(b.at));
}

export default function EvacuateSheet() {
  const { system } = useJob();
  const { picture, verdict } = useStep(STEP);
  const events = useEvents();
  const begun = events.length > 0;
  const causes = picture.causes.length > 0;
  return (
    <StepFrame
      step={STEP}
      sub="Pull, shut off, watch. What it does after it is shut off tells leak from moisture."
      done="Tight and dry: go on"
    >
      {begun && <Now />}
      {picture.charts.length > 0 && (
        <div className={`mt-4 grid gap-x-6 gap-y-4 ${picture.charts.length > 1 ? "lg:grid-cols-[2fr_3fr]" : ""}`}>
          {picture.charts.map((chart) => (
            <LogChart key={chart.id} chart={chart} system={system} />
          ))}
        </div>
      )}
      {picture.charts.length > 0 && <WholeLog />}
      {verdict.reasons
        .filter((reason) => reason.rule_id === "vacuum.ceiling")
        .map((reason) => (
          <p key={reason.rule_id} className="mt-2 text-[14px]">
            {fill(reason.message, system)}
          </p>
        ))}
      <Acts events={events} />
      {begun && <Readings step={STEP} record="readings" fields={["vacuum", "second"]} go="Type a reading" />}
      <LogAside step={STEP} record="readings" />
      {causes && (
        <>
          <h2 className="mt-4">What may be holding it up</h2>
          <p className="text-[14px] text-soft">Shut off for ten minutes, its rise tells most of these apart.</p>
          <Causes causes={picture.causes} />
        </>
      )}
      <PlanList rows={picture.plan} system={system} title="In this order" />
      <Remarks notes={picture.notes} system={system} />
      {verdict.reasons.some((reason) => reason.rule_id === "vacuum.unattended") && (
        <TextField step={STEP} keys={["left_running"]} className="mt-4" hint="and its power stays on" />
      )}
      <SetUp open={!begun} />
      {begun && <Events events={events} />}
    </StepFrame>
  );
}

function Now() {
  const { system } = useJob();
  const { figures, waiting } = useStep(STEP);
  const figure = (id: string) => figures.find((f) => f.id === id);
  return (
    <FigureRow>
      <BigFigure figure={figure("now")} system={system} />
      {waiting && (
        <Big label={`${waiting.decides}, in`} accent>
          <Countdown until={waiting.until} />
        </Big>
      )}
      <BigFigure figure={figure("climb")} system={system} />
      {figure("climb") && <BigFigure figure={figure("slope_limit")} system={system} />}
      <BigFigure figure={figure("plateau")} system={system} />
      <BigFigure figure={figure("target")} system={system} />
    </FigureRow>
  );
}

const NEXT: Record<string, { do: string; text: string }[]> = {
  "": [{ do: "pump", text: "Pump is on" }],
  pump: [
    { do: "isolated", text: "Shut off now" },
    { do: "nitrogen", text: "Broken with nitrogen" },
  ],
  isolated: [
    { do: "pump", text: "Pump again" },
    { do: "nitrogen", text: "Broken with nitrogen" },
  ],
  nitrogen: [{ do: "pump", text: "Pump again" }],
  sweep: [{ do: "pump", text: "Pump again" }],
};

/** What can be done next, each stamped with the clock at a tap. */
function Acts({ events }: { events: Done[] }) {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  const result = useStep(STEP);
  const rows = useRows(STEP, "events", []);
  if (closed) return null;
  const last = [...events].reverse().find((event) => event.do in NEXT)?.do ?? "";
  const ballast = [...events].reverse().find((event) => event.do.startsWith("ballast"))?.do;
  const method = at(answer.job, pathOf(answer.job, STEP, ["method"]));
  const offered = [...(NEXT[last] ?? [])];
  if (last === "pump" && method === "sweep") offered.push({ do: "sweep", text: "Nitrogen sweeps through" });
  if (last === "pump" && ballast !== "ballast_open") offered.push({ do: "ballast_open", text: "Ballast open" });
  if (last === "pump" && ballast === "ballast_open") offered.push({ do: "ballast_shut", text: "Ballast shut" });
  const waits = last === "isolated" && result.waiting !== null;
  const say = (what: string) => {
    const row = nextKey(rows, "e");
    type(pathOf(answer.job, STEP, ["events", row, "do"]), what, { ready: true });
    type(pathOf(answer.job, STEP, ["events", row, "at"]), new Date(nowMs()).toISOString(), { ready: true });
  };
  return (
    <p className="mt-4 flex flex-wrap gap-3">
      {offered.map((offer, n) => (
        <button
          key={offer.do}
          type="button"
          className={`btn ${n === 0 && !waits ? "go" : ""}`}
          onClick={() => say(offer.do)}
        >
          {offer.text}
        </button>
      ))}
    </p>
  );
}

function Events({ events }: { events: Done[] }) {
  return (
    <details className="mt-2">
      <summary className="min-h-[44px] cursor-pointer py-3 text-[14px] text-soft">
        What was done when, to correct it
      </summary>
      {events.map((event) => (
        <div key={event.row} className="grid gap-x-5 border-t border-rule pt-1 md:grid-cols-2">
          <ChoiceField step={STEP} keys={["events", event.row, "do"]} />
          <MomentField step={STEP} keys={["events", event.row, "at"]} />
        </div>
      ))}
    </details>
  );
}

function SetUp({ open }: { open: boolean }) {
  const { answer } = useJob();
  const place = at(answer.job, pathOf(answer.job, STEP, ["place"]));
  return (
    <details className="mt-3" open={open}>
      <summary className="min-h-[44px] cursor-pointer py-3 text-[15px] font-semibold">
        Before the pump starts: method, hoses, gauge
      </summary>
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <ChoiceField step={STEP} keys={["method"]} className="col-span-2" />
        <ChoiceField step={STEP} keys={["place"]} className="col-span-2" />
        <EntryField step={STEP} keys={["pump_speed"]} hint="on its plate" />
        <EntryField step={STEP} keys={["hose_bore"]} hint="inside bore, not the fitting" />
        <EntryField step={STEP} keys={["hose_length"]} />
        <EntryField step={STEP} keys={["volume"]} how hint="if empty: estimated" />
        <EntryField step={STEP} keys={["coldest"]} hint="sets how much water vapour there can be" />
        <EntryField step={STEP} keys={["gauge_floor"]} hint="by its maker" />
        <EntryField step={STEP} keys={["gauge_battery"]} hint="it has to last through the watch" />
        <EntryField step={STEP} keys={["oil_uses"]} hint="since it was changed" />
      </div>
      <div className="grid gap-x-8 md:grid-cols-2">
        <YesNoField step={STEP} keys={["energized"]} />
        <YesNoField step={STEP} keys={["valves_open"]} />
        <YesNoField step={STEP} keys={["cores_out"]} />
        <YesNoField step={STEP} keys={["two_hoses"]} />
        <YesNoField step={STEP} keys={["oil_fresh"]} />
        <YesNoField step={STEP} keys={["wet"]} />
        {place === "manifold" && <YesNoField step={STEP} keys={["path_proven"]} />}
        <YesNoField step={STEP} keys={["compound_only"]} />
      </div>
    </details>
  );
}
