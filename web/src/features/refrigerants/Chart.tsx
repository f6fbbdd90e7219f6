import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { chartQuery, jobsQuery } from "../../api/queries.ts";
import type { JobPoints, PhPoint, System } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { inUnit, show } from "../../format/quantity.ts";
import { PhChart, type Way } from "../../parts/PhChart.tsx";

const CORNERS = [
  ["suction", "suction"],
  ["discharge", "discharge, worked out"],
  ["liquid", "liquid"],
  ["inlet", "after the valve"],
] as const;

/** Pressure, enthalpy and temperature of one refrigerant, with the readings of a job on it. */
export function Chart({ name, job }: { name: string; job: string }) {
  const { system } = useSession();
  const { data } = useQuery(chartQuery(name, system, job));
  const domes = useMemo(() => (data ? [data.chart] : []), [data]);
  const last = data?.points[data.points.length - 1];
  const ways = useMemo(() => (last ? wayOf(last) : []), [last]);
  return (
    <section className="mt-4 border-t border-ink pt-2" aria-label="Pressure, enthalpy and temperature">
      <h2>Pressure, enthalpy, temperature</h2>
      <div className={last ? "grid gap-x-6 lg:grid-cols-[minmax(0,1fr)_230px]" : ""}>
        <PhChart domes={domes} ways={ways} system={system} />
        {last && <Corners row={last} system={system} />}
      </div>
    </section>
  );
}

/** Whose readings stand on the pictures. */
export function OfAJob({ job, onChoose }: { job: string; onChoose: (job: string) => void }) {
  const open = useQuery(jobsQuery({}));
  const closed = useQuery(jobsQuery({ listed: "closed" }));
  const rows = [...(open.data?.data.jobs ?? []), ...(closed.data?.data.jobs ?? [])].filter((r) => r.kind !== "quick");
  return (
    <label className="block text-[14px] text-soft">
      readings of
      <select className="control" value={job} onChange={(event) => onChoose(event.target.value)}>
        <option value="">no job</option>
        {rows.map((row) => (
          <option key={row.code} value={row.code}>
            {row.title}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Only a reading of both sides goes all the way round. */
function wayOf(row: JobPoints): Way[] {
  const points = CORNERS.map(([key]) => row[key]).filter((point): point is PhPoint => point !== null);
  return points.length === CORNERS.length ? [{ name: row.label, points }] : [];
}

function Corners({ row, system }: { row: JobPoints; system: System }) {
  return (
    <dl className="text-[14px]" data-testid="corners">
      {CORNERS.map(([key, label], n) => {
        const point = row[key];
        if (!point) return null;
        const dry = key === "inlet" && row.vapour_share !== null;
        return (
          <div key={key} className="flex items-center justify-between gap-2 border-b border-rule py-2">
            <dt>
              <span className="mr-2 inline-grid size-[22px] place-items-center rounded-full border-2 border-copper text-[14px] font-semibold">
                {n + 1}
              </span>
              {label}
            </dt>
            <dd className="text-right font-semibold">
              {dry
                ? `${inUnit(row.vapour_share ?? 0, "fraction", "%", 0)} % vapour`
                : show(point.temperature_k, "temperature", system)}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
