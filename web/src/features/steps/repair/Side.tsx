import { worded } from "../../../format/message.ts";
import { showAmount } from "../../../format/quantity.ts";
import { useJob, useStep } from "../../../job/context.ts";
import { Why } from "../../../parts/Why.tsx";
import { TotalCharge } from "../TotalCharge.tsx";

/** The charge as the repair leaves it, and the oil to add. */
export default function RepairSide() {
  const { system } = useJob();
  const oil = useStep("repair").figures.find((f) => f.id === "oil");
  return (
    <div>
      {oil && (
        <p className="mb-4 flex items-center justify-between gap-2 border-b border-rule pb-2 text-[15px]">
          {worded(oil.label, system)} <b>{showAmount(oil.amount, system)}</b>
          <Why figure={oil} system={system} />
        </p>
      )}
      <TotalCharge />
    </div>
  );
}
