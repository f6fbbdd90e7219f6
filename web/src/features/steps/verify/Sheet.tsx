import type { Band, StepResult } from "../../../api/types.ts";
import { show, showSpread } from "../../../format/quantity.ts";
import { ChoiceField, EntryField, YesNoField } from "../../../parts/fields.tsx";
import { VerdictBadge } from "../../../parts/shapes.tsx";
import { Weight } from "../../../parts/Weight.tsx";
import { Why } from "../../../parts/Why.tsx";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../job/context.ts";
import { StepFrame } from "../../job/StepFrame.tsx";

const STEP = "verify" as const;

export function VerifySheet() {
  const { answer } = useJob();
  const rows = useRows(STEP, "readings", ["r1"]);
  const metering = at(answer.job, "/steps/identify/runs/0/sheet/metering") ?? at(answer.job, "/circuit/plate/metering");
  return (
    <StepFrame
      step={STEP}
      sub={SUBS[String(metering)] ?? "Weight first, then the running unit proves it."}
      done="Proven: go to Close out"
    >
      <NextStep />
      <div className="grid gap-x-8 gap-y-4 md:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
        <Readings rows={rows} orifice={metering === "orifice"} />
        <Bands />
      </div>
      <Conditions orifice={metering === "orifice"} />
      <Trims />
    </StepFrame>
  );
}

const SUBS: Record<string, string> = {
  txv: "Expansion valve: subcooling judges the charge, superheat must be sane.",
  eev: "Electronic valve: subcooling judges the charge, superheat must be sane.",
  orifice: "Fixed orifice: superheat judges the charge; the target moves with the weather.",
  capillary: "Capillary: weight is the proof.",
};

function NextStep() {
  const { system } = useJob();
  const result = useStep(STEP);
  const step = result.figures.find((f) => f.id === "trim_step");
  if (!step) return null;
  return (
    <div className="mb-4">
      <p className="text-[16px] font-semibold text-copper">
        {step.label === "add next"
          ? "Add, then let it settle and read again"
          : "Take out, then let it settle and read again"}
      </p>
      <div className="flex flex-wrap items-start justify-between gap-3">
        <Weight kg={step.amount.value} system={system} label={step.label} />
        <Why figure={step} system={system} />
      </div>
    </div>
  );
}

function Bands() {
  const { system } = useJob();
  const result = useStep(STEP);
  if (!result.picture.bands.length)
    return (
      <p className="text-[14px] text-soft">
        Superheat and subcooling stand here as soon as the gauges and clamps are typed.
      </p>
    );
  return (
    <div>
      {result.picture.bands.map((band) => (
        <BandRow key={band.id} band={band} result={result} system={system} />
      ))}
    </div>
  );
}

function BandRow({ band, result, system }: { band: Band; result: StepResult; system: "us" | "si" }) {
  const figure = result.figures.find((f) => f.id === band.id);
  const target = result.figures.find((f) => f.id === "target");
  const judges = band.target !== null;
  return (
    <div className="border-b border-rule py-2" data-testid={`band-${band.id}`}>
      <div className="flex items-start justify-between gap-3">
        <div>
          <p className="text-[15px] font-semibold capitalize">{band.label}</p>
          <p className="text-[13px]" style={{ color: band.side === "low" ? "var(--low)" : "var(--high)" }}>
            {band.side === "low" ? "low side, from dew" : "high side, from bubble"}
          </p>
        </div>
        <span className="flex items-center">
          {band.low !== null && <VerdictBadge word={band.word} />}
          {figure && <Why figure={figure} system={system} />}
        </span>
      </div>
      <p className="num text-[32px] leading-[36px]">
        {show(band.amount.value, "temperature_delta", system)}{" "}
        <span className="text-[15px] font-normal text-soft">{showSpread(band.amount, system)}</span>
      </p>
      <p className="flex items-center justify-between text-[14px] text-soft">
        {judges && band.target !== null
          ? `target ${show(band.target, "temperature_delta", system)} ± ${show((band.high ?? 0) - band.target, "temperature_delta", system)}`
          : band.low !== null && band.high !== null
            ? `sane from ${show(band.low, "temperature_delta", system)} to ${show(band.high, "temperature_delta", system)}`
            : "no target on this side"}
        {judges && target && (
          <Why figure={target} system={system}>
            Why this target
          </Why>
        )}
      </p>
    </div>
  );
}

function Readings({ rows, orifice }: { rows: string[]; orifice: boolean }) {
  const { type, answer } = useJob();
  const closed = useIsClosed(STEP);
  const { verdict } = useStep(STEP);
  const kind = useKind();
  const last = rows[rows.length - 1] ?? "r1";
  const next = `r${rows.length + 1}`;
  const started = at(answer.job, pathOf(answer.job, STEP, ["readings", last, "suction_pressure"])) !== null;
  return (
    <fieldset>
      <legend className="mb-2 w-full border-b border-ink pb-1 text-[15px] font-semibold">
        {rows.length > 1 ? `Reading ${rows.length}, after the last step` : "Gauges and clamps"}
      </legend>
      <div className="grid grid-cols-2 gap-x-5">
        {rows.length > 1 && (
          <>
            <EntryField step={STEP} keys={["readings", last, "added"]} />
            <EntryField step={STEP} keys={["readings", last, "removed"]} />
          </>
        )}
        <EntryField step={STEP} keys={["readings", last, "suction_pressure"]} />
        <EntryField step={STEP} keys={["readings", last, "suction_line"]} />
        <EntryField step={STEP} keys={["readings", last, "liquid_pressure"]} />
        <EntryField step={STEP} keys={["readings", last, "liquid_line"]} />
        <EntryField step={STEP} keys={["readings", last, "outdoor"]} />
        {orifice && <EntryField step={STEP} keys={["readings", last, "return_wet_bulb"]} />}
        {(OWN[kind] ?? []).map((field) => (
          <EntryField key={field} step={STEP} keys={["readings", last, field]} />
        ))}
      </div>
      {started && !closed && verdict.word !== "Holds" && (
        <button
          type="button"
          className="btn"
          onClick={() => type(pathOf(answer.job, STEP, ["readings", next]), {}, { ready: true })}
        >
          Next reading, after a step
        </button>
      )}
    </fieldset>
  );
}

/** What a kind shows of itself beside gauges and clamps. */
const OWN: Record<string, string[]> = {
  reach_in: ["box"],
  receiver: ["box"],
  vehicle: ["supply", "humidity"],
  chiller: ["chilled_out", "condenser_out"],
};

function useKind(): string {
  const { answer } = useJob();
  return String(at(answer.job, "/steps/identify/runs/0/sheet/kind") ?? at(answer.job, "/circuit/plate/kind") ?? "");
}

function Conditions({ orifice }: { orifice: boolean }) {
  const kind = useKind();
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 w-full border-b border-ink pb-1 text-[15px] font-semibold">
        Right before it is judged
      </legend>
      <div className="grid gap-x-8 md:grid-cols-2">
        <div className="grid grid-cols-2 gap-x-5">
          <ChoiceField step={STEP} keys={["mode"]} />
          <EntryField step={STEP} keys={["run_in"]} />
          {orifice && (
            <EntryField
              step={STEP}
              keys={["chart_superheat"]}
              hint="if the unit has one; it wins over the formula"
              className="col-span-2"
            />
          )}
        </div>
        <div>
          <YesNoField step={STEP} keys={["filter_ok"]} />
          <YesNoField step={STEP} keys={["coils_ok"]} />
          {kind === "heat_pump" && <YesNoField step={STEP} keys={["both_modes"]} />}
          {kind === "receiver" && (
            <div className="grid grid-cols-2 gap-x-5">
              <ChoiceField step={STEP} keys={["sight_glass"]} hint="at load, after a defrost" />
              <EntryField step={STEP} keys={["receiver_level"]} hint="once it is pumped down" />
            </div>
          )}
        </div>
      </div>
    </fieldset>
  );
}

/** Each addition with its answer. */
function Trims() {
  const { system } = useJob();
  const { picture } = useStep(STEP);
  if (picture.trims.length < 2) return null;
  return (
    <table className="table mt-3">
      <thead>
        <tr>
          <th>reading</th>
          <th>added before</th>
          <th>in the system</th>
          <th>superheat</th>
          <th>subcooling</th>
        </tr>
      </thead>
      <tbody>
        {picture.trims.map((row, n) => (
          <tr key={row.id}>
            <td>{n + 1}</td>
            <td>{row.added_kg ? show(row.added_kg, "mass", system) : "—"}</td>
            <td>{row.inside_kg === null ? "—" : show(row.inside_kg, "mass", system)}</td>
            <td>{row.superheat ? show(row.superheat.value, "temperature_delta", system) : "—"}</td>
            <td>{row.subcooling ? show(row.subcooling.value, "temperature_delta", system) : "—"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
