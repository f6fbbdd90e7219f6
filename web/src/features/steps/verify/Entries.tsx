import { useState } from "react";
import { nowMs } from "../../../device/time.ts";
import { EntryField, TextField } from "../../../fields/index.ts";
import { MomentField } from "../../../fields/MomentField.tsx";
import { nextKey } from "../../../fields/Readings.tsx";
import { SetAside } from "../../../fields/SetAside.tsx";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../../job/context.ts";
import { changeOf } from "../../job/change.ts";
import { useHolds } from "../../job/useBook.ts";

const STEP = "verify" as const;

/** What a kind shows of itself beside gauges and clamps. */
const OWN: Record<string, string[]> = {
  reach_in: ["box"],
  receiver: ["box"],
  vehicle: ["supply", "humidity"],
  chiller: ["chilled_out", "condenser_out"],
};
const AIR = ["split", "heat_pump", "packaged", "ductless", "vrf"];

/** The reading at hand: the step before it where one is made, then gauges and clamps. */
export function Entries({ kind, orifice }: { kind: string; orifice: boolean }) {
  const rows = useRows(STEP, "readings", ["r1"]);
  const last = rows[rows.length - 1] ?? "r1";
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  const { verdict } = useStep(STEP);
  const started = at(answer.job, pathOf(answer.job, STEP, ["readings", last, "suction_pressure"])) !== null;
  return (
    <>
      {rows.length > 1 && <StepBefore key={last} row={last} number={rows.length - 1} />}
      <fieldset>
        <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">
          {rows.length > 1 ? `Reading ${rows.length}` : "Gauges and clamps"}
        </legend>
        <Row record="readings" row={last} kind={kind} orifice={orifice} />
        {started && <SetAside step={STEP} keys={["readings", last]} />}
        {started && !closed && verdict.word !== "Holds" && (
          <button
            type="button"
            className="btn quiet"
            onClick={() => type(pathOf(answer.job, STEP, ["readings", nextKey(rows, "r")]), {}, { ready: true })}
          >
            Read again
          </button>
        )}
      </fieldset>
      {kind === "heat_pump" && <OtherMode />}
    </>
  );
}

function Row({ record, row, kind, orifice }: { record: string; row: string; kind: string; orifice: boolean }) {
  const { answer } = useJob();
  const heating = at(answer.job, pathOf(answer.job, STEP, ["mode"])) === "heating";
  const extra = [
    ...(OWN[kind] ?? []),
    ...(AIR.includes(kind) ? ["return_air", "supply"] : []),
    ...(AIR.includes(kind) || changeOf(answer.job) ? ["amps", "rated_amps"] : []),
  ];
  return (
    <div className="grid grid-cols-2 gap-x-5">
      <EntryField
        step={STEP}
        keys={[record, row, "suction_pressure"]}
        hint={heating ? "vapour port: the high side now" : undefined}
      />
      {heating && <EntryField step={STEP} keys={[record, row, "true_suction"]} hint="at the compressor" />}
      <EntryField step={STEP} keys={[record, row, "suction_line"]} />
      <EntryField step={STEP} keys={[record, row, "liquid_pressure"]} />
      <EntryField step={STEP} keys={[record, row, "liquid_line"]} />
      <EntryField step={STEP} keys={[record, row, "outdoor"]} />
      {(orifice || AIR.includes(kind)) && (
        <EntryField
          step={STEP}
          keys={[record, row, "return_wet_bulb"]}
          hint={orifice ? "it sets the target" : HINTS.return_air}
        />
      )}
      {extra.map((field) => (
        <EntryField key={field} step={STEP} keys={[record, row, field]} hint={HINTS[field]} />
      ))}
      <MomentField step={STEP} keys={[record, row, "at"]} className="col-span-2" />
    </div>
  );
}

const HINTS: Record<string, string> = {
  return_air: "tells other faults apart",
  supply: "with return air: the split",
  amps: "beside what it is rated at",
  rated_amps: "on its plate; as found, if typed there",
};

/** What was added or taken out: by the scale, or as a figure. */
function StepBefore({ row, number }: { row: string; number: number }) {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  useHolds(STEP, ["readings", row]);
  const read = (field: string) => at(answer.job, pathOf(answer.job, STEP, ["readings", row, field]));
  const typed = read("added") !== null || read("removed") !== null;
  const [figure, setFigure] = useState(typed);
  const changed = read("gross_after") !== null || typed;
  return (
    <fieldset className="mb-3" data-testid="step-before">
      <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">Step {number}</legend>
      <div className="grid grid-cols-2 gap-x-5">
        {figure || typed ? (
          <>
            <EntryField step={STEP} keys={["readings", row, "added"]} />
            <EntryField step={STEP} keys={["readings", row, "removed"]} />
          </>
        ) : (
          <>
            <EntryField step={STEP} keys={["readings", row, "gross_before"]} />
            <EntryField step={STEP} keys={["readings", row, "gross_after"]} hint="valve shut, hose as before" />
          </>
        )}
        <TextField step={STEP} keys={["readings", row, "cylinder"]} hint="if empty: the last one from Weigh in" />
        <MomentField step={STEP} keys={["readings", row, "changed_at"]} now="Now" />
      </div>
      {!closed && (
        <p className="flex flex-wrap gap-3">
          {changed && read("changed_at") === null && (
            <button
              type="button"
              className="btn"
              onClick={() =>
                type(pathOf(answer.job, STEP, ["readings", row, "changed_at"]), new Date(nowMs()).toISOString(), {
                  ready: true,
                })
              }
            >
              It is in: let it settle
            </button>
          )}
          {!changed && (
            <button type="button" className="btn quiet" onClick={() => setFigure(!figure)}>
              {figure ? "By the scale, before and after" : "As a figure instead"}
            </button>
          )}
        </p>
      )}
    </fieldset>
  );
}

/** A heat pump shows in its other mode what this one hides. */
function OtherMode() {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  const rows = useRows(STEP, "other_mode", []);
  const mode = at(answer.job, pathOf(answer.job, STEP, ["mode"]));
  const other = mode === "heating" ? "cooling" : "heating";
  const row = rows[rows.length - 1];
  if (!row)
    return closed ? null : (
      <button
        type="button"
        className="btn mt-2"
        onClick={() => type(pathOf(answer.job, STEP, ["other_mode", "o1"]), {}, { ready: true })}
      >
        Read it in {other} too
      </button>
    );
  return (
    <fieldset className="mt-3" data-testid="other-mode">
      <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">In {other}</legend>
      <div className="grid grid-cols-2 gap-x-5">
        <EntryField
          step={STEP}
          keys={["other_mode", row, "suction_pressure"]}
          hint={other === "heating" ? "vapour port: the high side now" : undefined}
        />
        {other === "heating" && (
          <EntryField step={STEP} keys={["other_mode", row, "true_suction"]} hint="at the compressor" />
        )}
        <EntryField step={STEP} keys={["other_mode", row, "liquid_pressure"]} />
        <EntryField step={STEP} keys={["other_mode", row, "return_air"]} />
        <EntryField step={STEP} keys={["other_mode", row, "outdoor"]} />
      </div>
    </fieldset>
  );
}
