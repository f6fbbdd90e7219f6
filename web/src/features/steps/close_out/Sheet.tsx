import { useQuery } from "@tanstack/react-query";
import { stepLabel } from "../../../api/fields.ts";
import { historyQuery } from "../../../api/queries.ts";
import { TextField, YesNoField } from "../../../fields/index.ts";
import { labelOf, textOf } from "../../../format/entries.ts";
import { fill } from "../../../format/message.ts";
import { clock, showAmount } from "../../../format/quantity.ts";
import { at, useJob, useStep } from "../../../job/context.ts";
import { Weight } from "../../../parts/Weight.tsx";
import { Why } from "../../../parts/Why.tsx";
import { StepFrame } from "../../job/StepFrame.tsx";
import { Claims } from "./Claims.tsx";
import { Papers } from "./Papers.tsx";
import { Ways } from "./Ways.tsx";

const STEP = "close_out" as const;

export function CloseOutSheet() {
  const { answer, findings, system } = useJob();
  const result = useStep(STEP);
  const charged = findings.claims.find((claim) => claim.id === "charged")?.standing;
  const whole = charged !== "not_yet" && charged !== "contradicted";
  const inside = result.figures.find((f) => f.id === "inside");
  const co2e = result.figures.find((f) => f.id === "co2e");
  const hasCircuit = Boolean(at(answer.job, "/circuit/id"));
  return (
    <StepFrame step={STEP} sub="Record and label, then the job is done." done="Close the job">
      {inside && (
        <div className="flex flex-wrap items-start justify-between gap-3">
          <div>
            <p className="text-[16px] font-semibold text-copper">
              {whole ? "For the label: whole charge with line set" : "Inside now; not shown to be the whole charge"}
            </p>
            <Weight kg={inside.amount.value} system={system} label="in the system now" />
            {co2e && <p className="text-[14px] text-soft">{showAmount(co2e.amount, system)} CO₂ equivalent</p>}
          </div>
          <Why figure={inside} system={system} />
        </div>
      )}
      <Claims />
      <Papers code={answer.code} />
      <div className="mt-4 grid gap-x-8 md:grid-cols-2">
        <div>
          <Ways />
          <TextField step={STEP} keys={["reason"]} hint="where that way needs one" />
          <TextField step={STEP} keys={["customer"]} />
        </div>
        <div>
          <YesNoField step={STEP} keys={["label_fixed"]} />
          {hasCircuit ? <Differences changed={answer.kind === "retrofit"} /> : <NotOnRecord />}
          <TextField step={STEP} keys={["note"]} long />
        </div>
      </div>
    </StepFrame>
  );
}

/** A unit not on record is put on record with the job: under which name, at which site. */
function NotOnRecord() {
  const { answer } = useJob();
  return (
    <fieldset className="mt-2 border-l-4 border-[var(--edge)] pl-3">
      <legend className="text-[15px] font-semibold">Not on record yet: closing puts it there</legend>
      <TextField step={STEP} keys={["site"]} hint="if empty: “Site not named”" />
      <TextField step={STEP} keys={["system"]} hint={`else “${answer.title}”`} />
    </fieldset>
  );
}

/** What this job read differently from the circuit's record, and whether the record takes it. */
function Differences({ changed }: { changed: boolean }) {
  const { system } = useJob();
  const { notes } = useStep(STEP).picture;
  if (!notes.length) return null;
  return (
    <div className="mt-2 border-l-4 border-[var(--edge)] pl-3">
      <h2>{changed ? "What the circuit's record becomes" : "Different from the circuit's record"}</h2>
      <ul className="text-[14px]">
        {notes.map((note) => (
          <li key={note.text}>{fill(note, system)}</li>
        ))}
      </ul>
      {changed ? (
        <p className="mt-1 text-[14px] text-soft">
          With the new refrigerant inside, the record takes it when the job closes; what it was stays in its history.
        </p>
      ) : (
        <YesNoField step={STEP} keys={["update_circuit"]} />
      )}
    </div>
  );
}

type HistoryPayload = {
  accepted?: Record<string, { text?: string } | string | boolean | null>;
  step?: string;
  reason?: string;
  to?: string;
  device_clock?: Record<string, { at: string; device_at: string }>;
};

/** Where the clock of the device was off when this was typed: what it showed, beside what it was. */
function deviceShowed({ device_clock = {} }: HistoryPayload): string {
  const first = Object.values(device_clock)[0];
  return first ? `, typed at ${clock(first.at)}, ${clock(first.device_at)} on that device` : "";
}

/** What was done with a job or a step, as it is said. */
const DONE: Record<string, string> = {
  closed: "closed",
  reopened: "opened again",
  not_applicable: "left out",
  created: "job made",
  imported: "taken over from a file",
  adopted: "made a job",
  visit_started: "came back",
  visit_ended: "left",
  handed_on: "handed to",
  profile: "judged by the shop's present profile",
  fact: "refrigerant between circuits of this work order",
};

/** Everything that happened, last first. */
export function History() {
  const { answer } = useJob();
  const { data } = useQuery(historyQuery(answer.code, answer.seq));
  return (
    <ol className="mt-2 grid gap-2 text-[14px]">
      {(data ?? []).slice(0, 14).map((line) => (
        <li key={line.seq} className="border-t border-rule pt-1">
          <span className="text-soft">
            {clock(line.at)} {line.by}
            {deviceShowed(line.payload as HistoryPayload)}
          </span>
          <br />
          {told(line.kind, line.payload as HistoryPayload)}
        </li>
      ))}
    </ol>
  );
}

function told(kind: string, payload: HistoryPayload): string {
  const step = stepLabel(payload.step ?? "");
  if (kind !== "entries")
    return [step, DONE[kind] ?? kind, payload.to, payload.reason && `“${payload.reason}”`].filter(Boolean).join(" ");
  const said = Object.entries(payload.accepted ?? {}).map(([path, value]) =>
    `${labelOf(path)} ${textOf(path, value)}`.trim(),
  );
  return [...new Set(said)].join(", ");
}
