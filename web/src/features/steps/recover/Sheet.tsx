import { useQuery } from "@tanstack/react-query";
import { cylindersQuery } from "../../../api/queries.ts";
import type { BookRow, StepResult } from "../../../api/types.ts";
import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { show, showAmount } from "../../../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../../job/context.ts";
import { Remarks } from "../../../parts/Remarks.tsx";
import { Weight } from "../../../parts/Weight.tsx";
import { Why } from "../../../parts/Why.tsx";
import { StepFrame } from "../../job/StepFrame.tsx";
import { Decisions } from "../Decisions.tsx";

const STEP = "recover" as const;
const figureOf = (result: StepResult, id: string) => result.figures.find((f) => f.id === id);

function useValue(key: string): unknown {
  const { answer, drafts } = useJob();
  const path = pathOf(answer.job, STEP, [key]);
  return drafts[path] ? drafts[path].value : at(answer.job, path);
}

export default function RecoverSheet() {
  const way = useValue("way");
  return (
    <StepFrame
      step={STEP}
      sub="Plan the room before anything is opened; the weight speaks when it is over, not before."
      done="It is out: go on"
    >
      <ActOn />
      <div className="mt-3 grid gap-x-8 md:grid-cols-2">
        <ChoiceField step={STEP} keys={["way"]} />
        <EntryField step={STEP} keys={["told"]} hint="a told figure authorizes nothing" />
      </div>
      {way === "pump_down" ? <PumpDown /> : way === "cylinder" ? <IntoCylinders /> : null}
    </StepFrame>
  );
}

/** What to expect before, what is out while it runs, and its share when it is over. */
function ActOn() {
  const { system } = useJob();
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
            <b>{show(share.amount.value, "fraction", system)}</b> of what belongs there, {missing.label}{" "}
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
  return <p className="text-soft">What to expect stands here once Identify knows the full charge.</p>;
}

function IntoCylinders() {
  const { system } = useJob();
  const rows = useRows(STEP, "cylinders", ["c1"]);
  const { picture } = useStep(STEP);
  const finished = useValue("finished") === true;
  return (
    <>
      {rows.map((key, n) => (
        <CylinderEntry key={key} id={key} number={n + 1} />
      ))}
      <AnotherCylinder rows={rows} />
      <div className="mt-2 grid gap-x-8 md:grid-cols-2">
        <div>
          <YesNoField step={STEP} keys={["fan_on"]} />
          <YesNoField step={STEP} keys={["valves_open"]} />
        </div>
        <div>
          <YesNoField step={STEP} keys={["compressor_runs"]} />
          <YesNoField step={STEP} keys={["oily"]} />
        </div>
      </div>
      <Remarks notes={picture.notes} system={system} />
      <YesNoField step={STEP} keys={["finished"]} className="mt-3 border-t-2 border-ink" />
      {finished && <After />}
    </>
  );
}

/** One cylinder; the book fills what is stamped on it. */
function CylinderEntry({ id, number }: { id: string; number: number }) {
  const { answer, type, system } = useJob();
  const closed = useIsClosed(STEP);
  const { data } = useQuery(cylindersQuery);
  const row = useStep(STEP).picture.cylinders.find((c) => c.id === id);
  const path = (field: string) => pathOf(answer.job, STEP, ["cylinders", id, field]);
  const refillable = (data?.data ?? []).filter((c) => c.kind === "recovery");
  const take = (book: BookRow | undefined) => {
    if (!book) return;
    const kg = (value: number) => ({ text: value.toFixed(4), unit: "kg" });
    type(path("cylinder"), book.code, { ready: true, force: true });
    type(path("contents"), book.account.net_kg > 0.001 ? "same" : "evacuated", { ready: true, force: true });
    type(path("tare"), { text: book.tare_text, unit: "lb" }, { ready: true, force: true });
    if (book.water_capacity_kg) type(path("water_capacity"), kg(book.water_capacity_kg), { ready: true, force: true });
    if (book.retest) type(path("retest"), book.retest, { ready: true, force: true });
  };
  const known = String(at(answer.job, path("cylinder")) ?? "");
  return (
    <fieldset className="mt-2">
      <legend className="mb-1 flex w-full items-center justify-between border-b border-ink pb-1 text-[15px] font-semibold">
        <span>{number === 1 ? "Cylinder on the scale" : `Cylinder ${number}`}</span>
        {row?.room && (
          <span className="text-[14px] font-normal">
            room <b>{showAmount(row.room, system)}</b>, stop at{" "}
            <b>{row.stop_gross ? showAmount(row.stop_gross, system) : "—"}</b>
          </span>
        )}
      </legend>
      {!closed && refillable.length > 0 && (
        <label className="mb-1 flex max-w-[420px] items-center gap-3 text-[14px] text-soft">
          from the book
          <select
            className="control"
            value={refillable.some((c) => c.code === known) ? known : ""}
            onChange={(event) => take(refillable.find((c) => c.code === event.target.value))}
          >
            <option value="">not in the book</option>
            {refillable.map((c) => (
              <option key={c.code} value={c.code}>
                {c.code} · {c.refrigerant || "empty"} · {c.account.badge}
                {c.account.room_kg !== null ? ` · room ${show(c.account.room_kg, "mass", system)}` : ""}
              </option>
            ))}
          </select>
        </label>
      )}
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <TextField step={STEP} keys={["cylinders", id, "cylinder"]} hint="number or name on it" />
        <ChoiceField step={STEP} keys={["cylinders", id, "contents"]} />
        <EntryField step={STEP} keys={["cylinders", id, "tare"]} hint="stamped TW" />
        <EntryField step={STEP} keys={["cylinders", id, "water_capacity"]} hint="stamped WC; no limit without it" />
        <TextField step={STEP} keys={["cylinders", id, "retest"]} hint="2029-03" />
        <EntryField step={STEP} keys={["cylinders", id, "gross_start"]} />
        <EntryField
          step={STEP}
          keys={["cylinders", id, "gross_now"]}
          hint="gross, as it fills"
          className="col-span-2"
        />
      </div>
    </fieldset>
  );
}

function AnotherCylinder({ rows }: { rows: string[] }) {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  const last = rows[rows.length - 1] ?? "c1";
  if (closed || at(answer.job, pathOf(answer.job, STEP, ["cylinders", last, "gross_start"])) === null) return null;
  return (
    <button
      type="button"
      className="btn quiet"
      onClick={() => type(pathOf(answer.job, STEP, ["cylinders", `c${rows.length + 1}`]), {}, { ready: true })}
    >
      Another cylinder
    </button>
  );
}

/** Level and rise, then what becomes of it. */
function After() {
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
          <EntryField step={STEP} keys={["residue"]} />
        </div>
        <YesNoField step={STEP} keys={["frost"]} />
      </fieldset>
      <fieldset className="mt-2">
        <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">What becomes of it</legend>
        <div className="grid gap-x-8 md:grid-cols-2">
          <div>
            <ChoiceField step={STEP} keys={["use"]} />
            <ChoiceField step={STEP} keys={["acid"]} />
          </div>
          <div>
            <YesNoField step={STEP} keys={["burnout"]} />
            <YesNoField step={STEP} keys={["same_owner"]} />
          </div>
        </div>
        {use === "other_circuit" && (
          <div className="grid grid-cols-2 gap-x-5">
            <TextField step={STEP} keys={["to_circuit"]} hint="its code, as on its record" />
            <EntryField step={STEP} keys={["to_circuit_mass"]} hint="by the scale, never by hearsay" />
          </div>
        )}
      </fieldset>
      {disputed && <Decisions step="recover" />}
    </>
  );
}

function PumpDown() {
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
