import type { ReactNode } from "react";
import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { nextKey } from "../../../fields/Readings.tsx";
import { showAmount } from "../../../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../../job/context.ts";
import { Why } from "../../../parts/Why.tsx";
import { StepFrame } from "../../job/StepFrame.tsx";

const STEP = "change_over" as const;

function useFigure(id: string) {
  return useStep(STEP).figures.find((figure) => figure.id === id);
}

export default function ChangeOverSheet() {
  const { answer } = useJob();
  const metering =
    at(answer.job, pathOf(answer.job, "identify", ["metering"])) ?? at(answer.job, "/circuit/plate/metering");
  return (
    <StepFrame
      step={STEP}
      sub="What must change with the refrigerant: oil, seals, metering device, pressure controls, label."
      done="Changed over: go on"
    >
      <Oil />
      <Group title="Metering">
        {metering === "orifice" && (
          <TextField step={STEP} keys={["orifice"]} hint="as stamped on it" className="max-w-[320px]" />
        )}
        {metering === "capillary" && (
          <p className="text-[14px] text-soft">A capillary is not set. All of the charge goes in by weight.</p>
        )}
        {metering !== "orifice" && metering !== "capillary" && <ChoiceField step={STEP} keys={["valve"]} />}
      </Group>
      <Controls />
      <Group title="Seals and tag">
        <div className="grid gap-x-8 md:grid-cols-2">
          <YesNoField step={STEP} keys={["seals"]} />
          <YesNoField step={STEP} keys={["tagged"]} />
        </div>
      </Group>
    </StepFrame>
  );
}

function Group({ title, side, children }: { title: string; side?: ReactNode; children: ReactNode }) {
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 flex w-full items-end justify-between border-b border-ink pb-1 text-[15px] font-semibold">
        {title}
        {side}
      </legend>
      {children}
    </fieldset>
  );
}

/** Oil changes in their order, and what is left of the old oil after them. */
function Oil() {
  const { answer, system, type } = useJob();
  const closed = useIsClosed(STEP);
  const rows = useRows(STEP, "oil_changes", []);
  const left = useFigure("old_oil");
  const add = () =>
    type(pathOf(answer.job, STEP, ["oil_changes", nextKey(rows, "o")]), rows.length ? {} : { mixed: true }, {
      ready: true,
    });
  return (
    <Group
      title="Oil"
      side={
        left && (
          <span className="flex items-center gap-2 text-[15px] font-normal" data-testid="old-oil">
            old oil left <b>{showAmount(left.amount, system)}</b>
            <Why figure={left} system={system} />
          </span>
        )
      }
    >
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <TextField step={STEP} keys={["oil_grade"]} hint="its kind and grade" />
        <EntryField step={STEP} keys={["oil_system"]} hint="compressor and lines together" />
      </div>
      {rows.map((key, n) => (
        <div key={key} className="border-b border-rule pt-1" data-oil={key}>
          <p className="text-[14px] font-semibold">Change {n + 1}</p>
          <div className="grid grid-cols-2 items-end gap-x-5 lg:grid-cols-4">
            <EntryField step={STEP} keys={["oil_changes", key, "drained"]} />
            <EntryField step={STEP} keys={["oil_changes", key, "filled"]} />
            <YesNoField step={STEP} keys={["oil_changes", key, "mixed"]} />
            <EntryField step={STEP} keys={["oil_changes", key, "refractometer"]} hint="if one was read; it decides" />
          </div>
        </div>
      ))}
      {!closed && (
        <button type="button" className="btn quiet" onClick={add}>
          {rows.length ? "Another change" : "The oil was changed"}
        </button>
      )}
    </Group>
  );
}

/** Every pressure control, with what it is set to under the new refrigerant. */
function Controls() {
  const { answer, system, type } = useJob();
  const closed = useIsClosed(STEP);
  const { figures } = useStep(STEP);
  const rows = useRows(STEP, "controls", []);
  const add = () => type(pathOf(answer.job, STEP, ["controls", nextKey(rows, "k")]), {}, { ready: true });
  return (
    <Group title="Pressure controls">
      {rows.length === 0 && <YesNoField step={STEP} keys={["no_controls"]} className="max-w-[420px]" />}
      {rows.map((key) => {
        const wanted = figures.find((figure) => figure.id === `control_${key}`);
        return (
          <div key={key} className="grid grid-cols-2 items-start gap-x-5 border-b border-rule pt-1 lg:grid-cols-4">
            <ChoiceField step={STEP} keys={["controls", key, "kind"]} />
            <EntryField step={STEP} keys={["controls", key, "was"]} hint="for the old refrigerant" />
            <div data-testid={`wanted-${key}`}>
              <p className="lab">set it to</p>
              <p className="flex min-h-[46px] items-center gap-2">
                <b className="num text-[22px]">{wanted ? showAmount(wanted.amount, system) : "—"}</b>
                {wanted && <Why figure={wanted} system={system} />}
              </p>
            </div>
            <EntryField step={STEP} keys={["controls", key, "set_to"]} hint="as it is set now" />
          </div>
        );
      })}
      {!closed && (
        <button type="button" className="btn quiet" onClick={add}>
          {rows.length ? "Another control" : "A control works by pressure"}
        </button>
      )}
    </Group>
  );
}
