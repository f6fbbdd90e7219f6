import { showSpread } from "../../format/quantity.ts";
import { useJob, useStep } from "../../job/context.ts";
import { BuildUpTape } from "../../parts/BuildUp.tsx";
import { Weight } from "../../parts/Weight.tsx";
import { Why } from "../../parts/Why.tsx";

/** The total and how it is made up. */
export function TotalCharge() {
  const { system } = useJob();
  const result = useStep("identify");
  const total = result.figures.find((f) => f.id === "total");
  return (
    <div>
      <div className="flex items-center justify-between">
        <h2 className="text-soft">Total charge</h2>
        {total && <Why figure={total} system={system} />}
      </div>
      {total ? (
        <>
          <Weight
            kg={total.amount.value}
            system={system}
            label="total charge"
            spread={showSpread(total.amount, system)}
          />
          <div className="mt-4 max-md:hidden">
            <BuildUpTape parts={result.picture.parts} system={system} />
          </div>
        </>
      ) : (
        <p className="mt-3 text-soft">
          Refrigerant and factory charge off the plate, then line length and sizes: the total stands here about a minute
          from now.
        </p>
      )}
    </div>
  );
}
