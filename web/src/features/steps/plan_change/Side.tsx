import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { chartQuery } from "../../../api/queries.ts";
import { PhChart } from "../../../parts/PhChart.tsx";
import { useJob, useStep } from "../../job/context.ts";

/** Both refrigerants' ways round the simple cycle. */
export default function PlanChangeSide() {
  const { system } = useJob();
  const { cycles } = useStep("plan_change").picture;
  const now = cycles[0];
  const next = cycles[1];
  const { data: oldDome } = useQuery(chartQuery(now?.refrigerant ?? "", system));
  const { data: newDome } = useQuery(chartQuery(next?.refrigerant ?? "", system));
  const domes = useMemo(() => [newDome, oldDome].flatMap((state) => (state ? [state.chart] : [])), [newDome, oldDome]);
  if (!now || !next) {
    return (
      <div>
        <h2 className="text-soft">Both cycles</h2>
        <p className="mt-2 text-[14px] text-soft">They stand here once it is known what goes in.</p>
      </div>
    );
  }
  return (
    <div>
      <h2 className="text-soft">Both cycles, same compressor, same coils</h2>
      <PhChart
        domes={domes}
        ways={[
          { name: next.refrigerant, points: next.points },
          { name: `${now.refrigerant}, now`, points: now.points, dashed: true },
        ]}
        system={system}
        height={300}
      />
    </div>
  );
}
