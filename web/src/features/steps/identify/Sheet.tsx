import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import forms from "../../../api/forms.gen.json";
import { refrigerantsQuery } from "../../../api/queries.ts";
import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { nextKey } from "../../../fields/Readings.tsx";
import { fill } from "../../../format/message.ts";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../../job/context.ts";
import { StepFrame } from "../../job/StepFrame.tsx";

const STEP = "identify" as const;
const LINELESS = forms.kinds.lineless as string[];

export function IdentifySheet() {
  const rows = useRows(STEP, "lines", ["l1"]);
  return (
    <StepFrame
      step={STEP}
      sub="Copy the data plate. The total follows as you type; it saves by itself."
      done="Plate is right: go on"
    >
      <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1.55fr)_minmax(220px,1fr)]">
        <DataPlate />
        <div>
          {rows.length < 2 && <OneLine rows={rows} />}
          <ByKind />
          <Parts />
        </div>
      </div>
      {rows.length > 1 && <Lines rows={rows} />}
      <Pairing />
    </StepFrame>
  );
}

/** Proof that this condenser belongs to that indoor unit, before anything is opened: how one knows, in one press. */
function Pairing() {
  const { answer, type } = useJob();
  const read = usePlate();
  const unsure = read("circuit_known") === false;
  const several = ["packaged", "chiller", "receiver"].includes(String(read("kind"))) || read("circuit_known") !== null;
  const proven = (by: string | null) =>
    type(pathOf(answer.job, STEP, ["pairing_proven"]), by ? true : null, { ready: true });
  return (
    <div className="mt-4 grid gap-x-8 md:grid-cols-2">
      <ChoiceField step={STEP} keys={["pairing_by"]} hint="before anything is opened" onChoose={proven} />
      <div>
        {several && <YesNoField step={STEP} keys={["circuit_known"]} />}
        {unsure && (
          <EntryField
            step={STEP}
            keys={["other_charge"]}
            hint="the smaller one counts until the unit shows which it is"
          />
        )}
      </div>
    </div>
  );
}

/** What the plate says, typed here or on record. */
function usePlate() {
  const { answer } = useJob();
  return (key: string): unknown =>
    at(answer.job, pathOf(answer.job, STEP, [key])) ?? at(answer.job, `/circuit/plate/${key}`);
}

/** The form is shaped like the plate it is copied from: what decides the charge first, the rest folded under what it is good for. */
function DataPlate() {
  const { data } = useQuery(refrigerantsQuery);
  return (
    <fieldset className="relative rounded-[12px] border-[1.4px] border-ink px-5 py-4">
      <legend className="sr-only">Data plate</legend>
      <Rivets />
      <p className="mb-2 text-[15px] font-semibold" aria-hidden="true">
        Data plate
      </p>
      <div className="grid grid-cols-2 gap-x-5 gap-y-1">
        <ChoiceField step={STEP} keys={["kind"]} />
        <ChoiceField step={STEP} keys={["metering"]} />
        <TextField
          step={STEP}
          keys={["refrigerant"]}
          list={data?.data.map((r) => r.name)}
          hint="as stamped, such as R-410A"
        />
        <EntryField step={STEP} keys={["factory_charge"]} how hint="9 lb 4 oz, 9.25 lb, 148 oz or kg" />
        <LengthCovered />
      </div>
      <Fold
        title="For the running unit: its target, altitude, gauge"
        keys={["subcooling_target", "altitude", "orifice"]}
      >
        <EntryField step={STEP} keys={["subcooling_target"]} how hint="empty if not stamped" />
        <TextField step={STEP} keys={["orifice"]} hint="as stamped on it" />
        <EntryField step={STEP} keys={["altitude"]} hint="of the site" />
        <ChoiceField step={STEP} keys={["gauge_reference"]} />
      </Fold>
      <Fold title="For nitrogen and oil: pressures stamped, oil" keys={["design_high", "design_low", "oil"]}>
        <EntryField step={STEP} keys={["design_high"]} />
        <EntryField step={STEP} keys={["design_low"]} />
        <TextField step={STEP} keys={["oil"]} hint="kind and grade, such as POE 32" />
      </Fold>
      <Fold
        title="To check the charge: in the other unit, told, its ±"
        keys={["factory_charge_other", "charge_told", "tolerance", "whole_charge"]}
      >
        <EntryField step={STEP} keys={["factory_charge_other"]} hint="kg or oz, as a check" />
        <EntryField step={STEP} keys={["charge_told"]} how hint="shown next to it; the plate decides" />
        <EntryField step={STEP} keys={["tolerance"]} how />
        <YesNoField step={STEP} keys={["whole_charge"]} className="col-span-full" />
      </Fold>
      <Fold title="To find it again: serial, circuit" keys={["serial", "circuit"]}>
        <TextField step={STEP} keys={["serial"]} />
        <TextField step={STEP} keys={["circuit"]} />
      </Fold>
    </fieldset>
  );
}

/** A kind without a line set has no length that the charge could cover. */
function LengthCovered() {
  const kind = String(usePlate()("kind") ?? "");
  if (LINELESS.includes(kind)) return null;
  return <EntryField step={STEP} keys={["included_length"]} how hint="line length in that charge" />;
}

/** Folded until it is wanted; open where something stands in it. */
function Fold({ title, keys, children }: { title: string; keys: string[]; children: ReactNode }) {
  const { answer } = useJob();
  const typed = keys.some((key) => at(answer.job, pathOf(answer.job, STEP, [key])) !== null);
  return (
    <details className="border-t border-rule" open={typed || undefined}>
      <summary className="min-h-[44px] cursor-pointer py-3 font-semibold text-copper">{title}</summary>
      <div className="grid grid-cols-2 gap-x-5 gap-y-1">{children}</div>
    </details>
  );
}

function Rivets() {
  return (
    <>
      {["top-2 left-2", "top-2 right-2", "bottom-2 left-2", "right-2 bottom-2"].map((corner) => (
        <span
          key={corner}
          aria-hidden="true"
          className={`absolute h-[9px] w-[9px] rounded-full border border-ink ${corner}`}
        />
      ))}
    </>
  );
}

/** A unit in one piece has no line set to measure, unless somebody typed one. */
function OneLine({ rows }: { rows: string[] }) {
  const { answer } = useJob();
  const kind = String(usePlate()("kind") ?? "");
  const typed = at(answer.job, pathOf(answer.job, STEP, ["lines"])) !== null;
  return LINELESS.includes(kind) && !typed ? null : <Lines rows={rows} />;
}

function Lines({ rows }: { rows: string[] }) {
  const many = rows.length > 1;
  return (
    <fieldset className={many ? "mt-4" : ""}>
      <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">Line set</legend>
      {rows.map((key) => (
        <div key={key} className={`grid grid-cols-2 gap-x-5 ${many ? "lg:grid-cols-4" : ""}`}>
          <EntryField step={STEP} keys={["lines", key, "length"]} how label="installed, one way" />
          <EntryField step={STEP} keys={["lines", key, "liquid_od"]} hint="3/8 in or 9.52 mm" />
          <EntryField
            step={STEP}
            keys={["lines", key, "suction_od"]}
            hint="may stay empty; it then says what that is worth"
          />
          <EntryField step={STEP} keys={["lines", key, "allowance"]} how hint="the maker's, if known" />
          <Unmeasured row={key} />
        </div>
      ))}
      <AnotherLine rows={rows} />
    </fieldset>
  );
}

/** A line nobody can measure: the least and the most it can be, and what not knowing costs. */
function Unmeasured({ row }: { row: string }) {
  const { answer, system } = useJob();
  const { verdict } = useStep(STEP);
  const read = (key: string) =>
    at(answer.job, pathOf(answer.job, STEP, ["lines", row, key])) ??
    at(answer.job, `/circuit/plate/lines/${row}/${key}`);
  if (read("length") !== null) return null;
  const price = verdict.reasons.find((reason) => reason.rule_id === "identify.unmeasured");
  return (
    <div className="col-span-full">
      <YesNoField step={STEP} keys={["lines", row, "unmeasured"]} />
      {read("unmeasured") === true && (
        <div className="grid grid-cols-2 gap-x-5">
          <EntryField step={STEP} keys={["lines", row, "length_least"]} hint="a guess will do" />
          <EntryField step={STEP} keys={["lines", row, "length_most"]} hint="all the way round the building" />
          {price && <p className="col-span-2 text-[14px]">{fill(price.message, system)}</p>}
        </div>
      )}
    </div>
  );
}

function AnotherLine({ rows }: { rows: string[] }) {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  if (closed) return null;
  return (
    <button
      type="button"
      className="btn quiet"
      onClick={() => type(pathOf(answer.job, STEP, ["lines", nextKey(rows, "l")]), {}, { ready: true })}
    >
      Another line
    </button>
  );
}

/** What only some kinds ask for: indoor units and boxes, winter flooding, the smallest room. */
function ByKind() {
  const { data } = useQuery(refrigerantsQuery);
  const read = usePlate();
  const kind = String(read("kind") ?? "");
  const found = data?.data.find((row) => row.name === read("refrigerant"));
  const flammable = found ? /[23]L?$/.test(found.safety_class) : false;
  const rooms = kind !== "vehicle" && (flammable || ["vrf", "ductless", "chiller"].includes(kind));
  if (kind !== "vrf" && kind !== "receiver" && kind !== "vehicle" && !rooms && !flammable) return null;
  return (
    <fieldset className="mt-3">
      <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">
        {rooms ? "Rooms and units" : kind === "vehicle" ? "Compressor" : "Winter"}
      </legend>
      {kind === "vrf" && (
        <div className="grid grid-cols-2 gap-x-5">
          <EntryField step={STEP} keys={["indoor_units"]} />
          <EntryField step={STEP} keys={["indoor_allowance"]} hint="by the maker's table" />
          <EntryField step={STEP} keys={["branch_boxes"]} hint="0 if there are none" />
          <EntryField step={STEP} keys={["branch_allowance"]} hint="by the maker's table" />
        </div>
      )}
      {flammable && <YesNoField step={STEP} keys={["listed"]} />}
      {kind === "vehicle" && <YesNoField step={STEP} keys={["electric"]} />}
      {kind === "receiver" && <YesNoField step={STEP} keys={["floods"]} />}
      {kind === "receiver" && read("floods") === true && (
        <div className="grid grid-cols-2 gap-x-5">
          <EntryField step={STEP} keys={["flooding_charge"]} hint="by the maker's table" />
          <EntryField step={STEP} keys={["condenser_volume"]} hint="if empty: from its volume" />
        </div>
      )}
      {rooms && (
        <div className="grid grid-cols-2 gap-x-5">
          {flammable ? (
            <>
              <EntryField step={STEP} keys={["room_area"]} hint="needed above small charges" />
              <ChoiceField step={STEP} keys={["mounting"]} />
            </>
          ) : (
            <EntryField step={STEP} keys={["room_volume"]} hint="so that a leak leaves air to breathe" />
          )}
        </div>
      )}
    </fieldset>
  );
}

function Parts() {
  const { type, answer } = useJob();
  const closed = useIsClosed(STEP);
  const rows = useRows(STEP, "parts", []);
  const free =
    Array.from({ length: rows.length + 1 }, (_, n) => `p${n + 1}`).find((key) => !rows.includes(key)) ?? "p1";
  return (
    <fieldset className="mt-3">
      <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">
        Parts that change the charge
      </legend>
      {rows.map((key) => (
        <div key={key} className="grid grid-cols-[1fr_1fr_44px] gap-x-4">
          <TextField step={STEP} keys={["parts", key, "label"]} />
          <EntryField step={STEP} keys={["parts", key, "charge"]} how />
          {at(answer.job, pathOf(answer.job, STEP, ["parts", key])) !== null && !closed && (
            <button
              type="button"
              className="btn quiet mt-3"
              aria-label={`Remove part ${key}`}
              onClick={() => type(pathOf(answer.job, STEP, ["parts", key]), null, { ready: true, force: true })}
            >
              ✕
            </button>
          )}
        </div>
      ))}
      {!closed && (
        <button
          type="button"
          className="btn quiet"
          onClick={() => type(pathOf(answer.job, STEP, ["parts", free, "label"]), "filter drier", { ready: true })}
        >
          Add a part
        </button>
      )}
    </fieldset>
  );
}
