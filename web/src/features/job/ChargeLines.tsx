import { showAmount } from "../../format/quantity.ts";
import { useJob, useStep } from "../../job/context.ts";
import { BuildUpLines } from "../../parts/BuildUp.tsx";
import { Why } from "../../parts/Why.tsx";
import { changeOf } from "./change.ts";

/** What the charge is made of; after a change of refrigerant, from the old one's full charge to what is expected of the new. */
export function ChargeLines() {
  const { answer } = useJob();
  const change = answer.kind === "retrofit" ? changeOf(answer.job) : null;
  return change ? <Changed from={change.from} to={change.to} /> : <Made />;
}

function Made() {
  const { system } = useJob();
  const identify = useStep("identify");
  const total = identify.figures.find((f) => f.id === "total");
  return (
    <>
      <div className="flex items-center justify-between">
        <h2 className="text-soft">Charge</h2>
        {total && <Why figure={total} system={system} />}
      </div>
      {total && (
        <BuildUpLines parts={identify.picture.parts} total={showAmount(total.amount, system)} system={system} />
      )}
    </>
  );
}

function Changed({ from, to }: { from: string; to: string }) {
  const { system } = useJob();
  const full = useStep("identify").figures.find((f) => f.id === "total");
  const plan = useStep("plan_change").figures;
  const [start, final] = ["start", "final"].map((id) => plan.find((f) => f.id === id));
  const rows = [
    [`${from}, full, with its lines`, full],
    [`${to}, expected in the end`, final],
    [`${to}, to begin with`, start],
  ] as const;
  return (
    <>
      <div className="flex items-center justify-between">
        <h2 className="text-soft">Charge</h2>
        {final && <Why figure={final} system={system} />}
      </div>
      <dl className="text-[14px]" data-testid="changed-charge">
        {rows.map(([label, figure]) =>
          figure ? (
            <div key={label} className="flex justify-between gap-3 border-b border-rule py-1">
              <dt className="text-soft">{label}</dt>
              <dd className="font-semibold whitespace-nowrap">{showAmount(figure.amount, system)}</dd>
            </div>
          ) : null,
        )}
      </dl>
    </>
  );
}
