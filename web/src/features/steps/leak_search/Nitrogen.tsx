import type { Pictures } from "../../../api/types.ts";
import { EntryField, YesNoField } from "../../../fields/index.ts";
import { fill } from "../../../format/message.ts";
import { showAmount } from "../../../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../../job/context.ts";
import { Shape } from "../../../parts/shapes.tsx";

const STEP = "leak_search" as const;

/** What nitrogen lost, before and after the repair, and whether that explains the loss. */
export function Nitrogen() {
  const { system } = useJob();
  const rows = useRows(STEP, "drops", ["n1"]);
  const { picture, verdict } = useStep(STEP);
  const said = verdict.reasons.find((reason) => reason.rule_id === "leak.explains");
  return (
    <details className="mt-3" open={Boolean(said)}>
      <summary className="min-h-[44px] cursor-pointer py-3 text-[15px] font-semibold">
        Does what was found explain the loss? Drop under nitrogen
      </summary>
      {said && (
        <div className="mb-3 flex flex-wrap items-center gap-4">
          <p className="flex items-center gap-2 text-[16px]">
            <Shape word={said.word} /> {fill(said.message, system)}
          </p>
          {picture.loss && <LossRule loss={picture.loss} />}
        </div>
      )}
      <EntryField
        step={STEP}
        keys={["volume"]}
        className="max-w-[260px]"
        hint="a guess will do; the result gets wider"
      />
      {rows.map((key, n) => (
        <fieldset key={key} className="mt-1">
          <legend className="lab">{n === 0 ? "First hold" : `Hold ${n + 1}`}</legend>
          <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-5">
            {["pressure_start", "pressure_end", "metal_start", "metal_end", "lasted"].map((field) => (
              <EntryField key={field} step={STEP} keys={["drops", key, field]} />
            ))}
          </div>
          <YesNoField step={STEP} keys={["drops", key, "after_repair"]} className="max-w-[420px]" />
        </fieldset>
      ))}
      <AddRow
        name="drops"
        rows={rows}
        prefix="n"
        field="after_repair"
        value={true}
        text="Another hold, after the repair"
      />
    </details>
  );
}

/** Loss and leak on one logarithmic rule. */
function LossRule({ loss }: { loss: NonNullable<Pictures["leak_search"]["loss"]> }) {
  const { system } = useJob();
  const values = [loss.lost.value, Math.max(loss.low.value, loss.high.value / 50), loss.high.value].filter(
    (v) => v > 0,
  );
  const least = Math.log(Math.min(...values) / 1.6);
  const most = Math.log(Math.max(...values) * 1.6);
  const x = (value: number) => 10 + ((Math.log(Math.max(value, Math.exp(least))) - least) / (most - least)) * 280;
  const low = x(loss.low.value);
  return (
    <svg
      viewBox="0 0 300 74"
      width="300"
      role="img"
      aria-label={`lost ${showAmount(loss.lost, system)}, leaks ${showAmount(loss.low, system)} to ${showAmount(loss.high, system)}`}
    >
      <line x1="10" x2="290" y1="62" y2="62" stroke="var(--ink)" />
      <rect
        x={low}
        y="38"
        width={Math.max(x(loss.high.value) - low, 3)}
        height="14"
        fill="var(--tint2)"
        stroke="var(--ink)"
      />
      <line x1={x(loss.lost.value)} x2={x(loss.lost.value)} y1="22" y2="62" stroke="var(--ink)" strokeWidth="3" />
      <text
        x={Math.min(Math.max(x(loss.lost.value), 60), 240)}
        y="14"
        textAnchor="middle"
        fontSize="15"
        fontWeight="640"
      >
        lost {showAmount(loss.lost, system)}
      </text>
    </svg>
  );
}

function AddRow(props: { name: string; rows: string[]; prefix: string; field: string; value: unknown; text: string }) {
  const { type, answer } = useJob();
  const closed = useIsClosed(STEP);
  const started = at(answer.job, pathOf(answer.job, STEP, [props.name, props.rows[0] ?? ""])) !== null;
  if (closed || !started) return null;
  const next = `${props.prefix}${props.rows.length + 1}`;
  return (
    <button
      type="button"
      className="btn quiet"
      onClick={() => type(pathOf(answer.job, STEP, [props.name, next, props.field]), props.value, { ready: true })}
    >
      {props.text}
    </button>
  );
}
