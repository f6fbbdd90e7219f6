import { Link } from "react-router";
import { circuitsQuery, useRows } from "../../../api/lists.ts";
import { EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { fill } from "../../../format/message.ts";
import { show, showAmount } from "../../../format/quantity.ts";
import { at, pathOf, useJob, useStep } from "../../../job/context.ts";
import { Remarks } from "../../../parts/Remarks.tsx";
import { Weight } from "../../../parts/Weight.tsx";
import { Why } from "../../../parts/Why.tsx";
import { StepFrame } from "../../job/StepFrame.tsx";

const STEP = "plan_change" as const;
const CONDITIONS = ["evaporating", "condensing", "superheat", "subcooling", "efficiency", "outdoor", "duty"];

/** Which refrigerant goes in, what stands against it, how much of it, and what must come along. */
export default function PlanChangeSheet() {
  const { answer, system } = useJob();
  const { picture } = useStep(STEP);
  const given = CONDITIONS.some((key) => at(answer.job, pathOf(answer.job, STEP, [key])) != null);
  return (
    <StepFrame
      step={STEP}
      sub="First what rules a refrigerant out. Then how much goes in, and what to bring."
      done="Planned: go on"
    >
      <ActOn />
      <div className="mt-3 grid gap-x-8 md:grid-cols-2">
        <div>
          <TextField step={STEP} keys={["refrigerant"]} hint="as in the catalogue" />
          <Compare />
        </div>
        <YesNoField step={STEP} keys={["approved"]} />
      </div>
      {picture.notes.length > 0 && <h2 className="mt-4">Change with it</h2>}
      <Remarks notes={picture.notes} system={system} />
      <details className="mt-3" open={given || undefined}>
        <summary className="min-h-[44px] cursor-pointer py-3 text-[15px] font-semibold">Conditions used for it</summary>
        <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
          {CONDITIONS.map((key) => (
            <EntryField key={key} step={STEP} keys={[key]} hint="if empty: what is usual for its kind" />
          ))}
        </div>
      </details>
    </StepFrame>
  );
}

/** The comparison this came from, for another choice. */
function Compare() {
  const { answer } = useJob();
  const code = String(at(answer.job, "/circuit/id") ?? "");
  const { rows } = useRows(circuitsQuery({ code }));
  const row = rows.find((circuit) => circuit.code === code);
  if (!row) return null;
  return (
    <Link to={`/systems/${row.id}/retrofit`} className="inline-flex min-h-[44px] items-center text-copper underline">
      Compare all that could go in
    </Link>
  );
}

function ActOn() {
  const { system } = useJob();
  const { figures, problems } = useStep(STEP);
  const of = (id: string) => figures.find((figure) => figure.id === id);
  const [start, final, worst] = [of("start"), of("final"), of("worst")];
  const first = start ?? final;
  if (problems.length > 0) {
    return (
      <ul className="grid gap-1" data-testid="stops">
        {problems.map((problem) => (
          <li key={problem.code} className="note stop">
            {fill(problem.message, system)}
          </li>
        ))}
      </ul>
    );
  }
  if (!first || !final) {
    return <p className="text-soft">Start and expected end stand here once Identify knows the full charge.</p>;
  }
  return (
    <div>
      <p className="text-[16px] font-semibold text-copper">{start ? "Start with" : "Weigh in, and nothing more"}</p>
      <div className="flex flex-wrap items-start justify-between gap-3">
        <Weight kg={first.amount.value} system={system} label={start ? "start with" : "to weigh in"} />
        <Why figure={first} system={system} />
      </div>
      {start && (
        <p className="mt-1 flex flex-wrap items-center gap-x-2 text-[15px]">
          <b>{show(final.amount.value, "mass", system)}</b> expected in the end, in steps
          <Why figure={final} system={system} />
        </p>
      )}
      {worst && (
        <p className="flex flex-wrap items-center gap-x-2 text-[15px] text-soft">
          {showAmount(worst.amount, system)} on the worst day
          <Why figure={worst} system={system} />
        </p>
      )}
    </div>
  );
}
