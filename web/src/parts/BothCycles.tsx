import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { chartQuery } from "../api/queries.ts";
import type { CycleWay, System } from "../api/types.ts";
import { PhChart } from "./PhChart.tsx";

/** What runs in a system now and what would, each on its refrigerant's dome. */
export function BothCycles({
  now,
  next,
  system,
  height,
}: {
  now: CycleWay;
  next: CycleWay;
  system: System;
  height?: number;
}) {
  const { data: nowDome } = useQuery(chartQuery(now.refrigerant, system));
  const { data: nextDome } = useQuery(chartQuery(next.refrigerant, system));
  const domes = useMemo(
    () => [nextDome, nowDome].flatMap((state) => (state ? [state.chart] : [])),
    [nextDome, nowDome],
  );
  const ways = useMemo(
    () => [
      { name: next.refrigerant, points: next.points },
      { name: `${now.refrigerant}, now`, points: now.points, dashed: true },
    ],
    [now.refrigerant, now.points, next.refrigerant, next.points],
  );
  return <PhChart domes={domes} ways={ways} system={system} height={height} />;
}
