import { useJob, useStep } from "../../../job/context.ts";
import { BothCycles } from "../../../parts/BothCycles.tsx";

/** Both refrigerants' ways round the simple cycle. */
export default function PlanChangeSide() {
  const { system } = useJob();
  const [now, next] = useStep("plan_change").picture.cycles;
  return (
    <div>
      <h2 className="text-soft">Both cycles, same compressor, same coils</h2>
      {now && next ? (
        <BothCycles now={now} next={next} system={system} height={300} />
      ) : (
        <p className="mt-2 text-[14px] text-soft">They stand here once it is known what goes in.</p>
      )}
    </div>
  );
}
