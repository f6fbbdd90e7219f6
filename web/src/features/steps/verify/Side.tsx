import { showAmount } from "../../../format/quantity.ts";
import { useJob, useStep } from "../../../job/context.ts";
import { Ladder } from "../../../parts/Ladder.tsx";
import { TrimTape } from "../../../parts/TrimTape.tsx";
import { Why } from "../../../parts/Why.tsx";

/** What is in the system: on the tape of trimming, and the temperature ladder. */
export function VerifySide() {
  const { system } = useJob();
  const { figures, picture } = useStep("verify");
  const weighed = useStep("weigh_in");
  const inside = [...figures, ...weighed.figures].find((f) => f.id === "inside");
  return (
    <div>
      <div className="flex items-center justify-between">
        <h2 className="text-soft">In the system</h2>
        {inside && <Why figure={inside} system={system} />}
      </div>
      <p className="num text-[24px]">{inside ? showAmount(inside.amount, system) : "not weighed in"}</p>
      {picture.tape && picture.bands.length > 0 && (
        <div className="mt-2">
          <TrimTape tape={picture.tape} rows={picture.trims} system={system} />
        </div>
      )}
      <div className="mt-3">
        <Ladder bands={picture.bands} system={system} />
      </div>
    </div>
  );
}
