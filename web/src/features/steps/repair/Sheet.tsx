import type { ReactNode } from "react";
import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { nextKey } from "../../../fields/Readings.tsx";
import { at, pathOf, useIsClosed, useJob, useRows } from "../../../job/context.ts";
import { StepFrame } from "../../job/StepFrame.tsx";

const STEP = "repair" as const;

function useValue(keys: string[]): unknown {
  const { answer, drafts } = useJob();
  const path = pathOf(answer.job, STEP, keys);
  return drafts[path] ? drafts[path].value : at(answer.job, path);
}

function usePlate(key: string): unknown {
  const { answer } = useJob();
  return at(answer.job, pathOf(answer.job, "identify", [key])) ?? at(answer.job, `/circuit/plate/${key}`);
}

export default function RepairSheet() {
  const joining = useValue(["joining"]);
  const drier = useValue(["drier"]);
  const metering = usePlate("metering");
  const also = useValue(["also_joined"]);
  const brazed = joining === "brazed" || also === "brazed";
  const hot = brazed || joining === "soldered" || also === "soldered";
  const tested = useValue(["acid_test"]) === true;
  return (
    <StepFrame
      step={STEP}
      sub="What came out, what went in and why, and what must be right before you close it up."
      done="Closed up: go on"
    >
      <Parts />
      <Group title="Joints">
        <div className="grid gap-x-8 md:grid-cols-2">
          <ChoiceField step={STEP} keys={["joining"]} />
          <ChoiceField step={STEP} keys={["also_joined"]} hint="where joints were made in two ways" />
          <EntryField step={STEP} keys={["opened_for"]} hint="from the first cut to the last joint" />
          <ChoiceField step={STEP} keys={["weather"]} hint="wet air halves the time allowed, dry air doubles it" />
        </div>
        <YesNoField step={STEP} keys={["at_zero"]} className="max-w-[460px]" />
        {hot && (
          <div className="grid gap-x-8 md:grid-cols-2">
            <YesNoField step={STEP} keys={["both_open"]} />
            <YesNoField step={STEP} keys={["fire_watch"]} />
            {brazed && <YesNoField step={STEP} keys={["nitrogen_flow"]} />}
            {brazed && <YesNoField step={STEP} keys={["capillary"]} />}
            {brazed && <YesNoField step={STEP} keys={["screen"]} />}
          </div>
        )}
        {brazed && (
          <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
            <EntryField step={STEP} keys={["flow_for"]} hint="while you braze" />
            <EntryField step={STEP} keys={["bottle_pressure"]} hint="tells whether it will last" />
            <EntryField step={STEP} keys={["bottle_volume"]} hint="its water capacity" />
            <ChoiceField step={STEP} keys={["bottle_size"]} />
          </div>
        )}
        <YesNoField step={STEP} keys={["water_seen"]} />
      </Group>
      <Group title="Drier, cores and valve">
        <div className="grid gap-x-8 md:grid-cols-2">
          <ChoiceField step={STEP} keys={["drier"]} />
          {metering === "orifice" ? (
            <TextField step={STEP} keys={["orifice"]} hint="as stamped on it" />
          ) : (
            <ChoiceField step={STEP} keys={["bulb"]} />
          )}
          {(drier === "new" || drier === "suction_too") && (
            <>
              <YesNoField step={STEP} keys={["drier_way"]} />
              <YesNoField step={STEP} keys={["drier_size"]} />
            </>
          )}
          <YesNoField step={STEP} keys={["cores"]} />
          <YesNoField step={STEP} keys={["acid_test"]} />
          {tested && <ChoiceField step={STEP} keys={["acid"]} />}
          {drier === "suction_too" && <YesNoField step={STEP} keys={["suction_out"]} />}
        </div>
      </Group>
      <Oil />
      <Hidden />
    </StepFrame>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">{title}</legend>
      {children}
    </fieldset>
  );
}

/** A row more in a record. */
function AddRow({ record, rows, prefix, text }: Record<"record" | "prefix" | "text", string> & { rows: string[] }) {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  if (closed) return null;
  const add = () => type(pathOf(answer.job, STEP, [record, nextKey(rows, prefix)]), {}, { ready: true });
  return (
    <button type="button" className="btn quiet" onClick={add}>
      {text}
    </button>
  );
}

function Parts() {
  const rows = useRows(STEP, "parts", []);
  return (
    <Group title="Parts">
      {rows.length === 0 && (
        <p className="mt-1 text-[14px] text-soft">No part replaced yet, apart from drier and cores.</p>
      )}
      {rows.map((key) => (
        <div key={key} className="border-b border-rule pt-1">
          <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
            <TextField step={STEP} keys={["parts", key, "label"]} hint="as you would name it" />
            <ChoiceField step={STEP} keys={["parts", key, "kind"]} />
            <ChoiceField step={STEP} keys={["parts", key, "failed_by"]} hint="decides what else to do" />
            <EntryField step={STEP} keys={["parts", key, "charge"]} hint="added to the total charge" />
          </div>
          <More part={key} />
        </div>
      ))}
      <AddRow record="parts" rows={rows} prefix="p" text={rows.length ? "Another part" : "A part was replaced"} />
    </Group>
  );
}

function More({ part }: { part: string }) {
  const kind = useValue(["parts", part, "kind"]);
  return (
    <div className="grid gap-x-8 md:grid-cols-2">
      <YesNoField step={STEP} keys={["parts", part, "again"]} />
      <YesNoField step={STEP} keys={["parts", part, "removes"]} />
      <YesNoField step={STEP} keys={["parts", part, "used"]} />
      {kind === "coil" && <YesNoField step={STEP} keys={["parts", part, "pressurized"]} />}
      {(kind === "compressor" || kind === "coil") && (
        <div className="grid grid-cols-2 gap-x-5">
          <EntryField step={STEP} keys={["parts", part, "oil_needs"]} hint="by its maker" />
          <EntryField step={STEP} keys={["parts", part, "oil_inside"]} />
        </div>
      )}
    </div>
  );
}

function Oil() {
  const out = useValue(["oil_out"]);
  const lines = useValue(["lines"]);
  return (
    <details className="mt-3" open={Boolean(out || lines)}>
      <summary className="min-h-[44px] cursor-pointer py-3 text-[15px] font-semibold">Oil, and lines kept</summary>
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <ChoiceField step={STEP} keys={["oil_out"]} />
        {out === "measured" && <EntryField step={STEP} keys={["oil_removed"]} />}
        <EntryField step={STEP} keys={["oil_dye"]} hint="dye comes in oil" />
        <TextField step={STEP} keys={["oil_grade"]} hint="as on the plate" />
        <EntryField step={STEP} keys={["oil_added"]} hint="without what came with dye" />
        <YesNoField step={STEP} keys={["oil_named"]} />
        <ChoiceField step={STEP} keys={["lines"]} className="col-span-2" />
      </div>
    </details>
  );
}

function Hidden() {
  const rows = useRows(STEP, "hidden", []);
  return (
    <Group title="Places soon covered up">
      {rows.map((key) => (
        <div key={key} className="grid gap-x-8 md:grid-cols-2">
          <TextField step={STEP} keys={["hidden", key, "label"]} hint="behind a cover, in a wall" />
          <YesNoField step={STEP} keys={["hidden", key, "tested"]} />
        </div>
      ))}
      <AddRow record="hidden" rows={rows} prefix="h" text="A place gets covered up" />
    </Group>
  );
}
