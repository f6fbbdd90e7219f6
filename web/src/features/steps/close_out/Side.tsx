import { showAmount } from "../../../format/quantity.ts";
import { BuildUpLines } from "../../../parts/BuildUp.tsx";
import { useJob, useStep } from "../../job/context.ts";
import { History } from "./Sheet.tsx";

/** The build-up in short, and what happened when. */
export function CloseOutSide() {
  const { system } = useJob();
  const identify = useStep("identify");
  const total = identify.figures.find((f) => f.id === "total");
  return (
    <div>
      <h2 className="text-soft">Charge</h2>
      {total && (
        <BuildUpLines parts={identify.picture.parts} total={showAmount(total.amount, system)} system={system} />
      )}
      <h2 className="mt-5 text-soft">What happened</h2>
      <History />
    </div>
  );
}
