import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { circuitQuery, retrofitQuery } from "../../api/queries.ts";
import type { RetrofitRow } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { showAmount } from "../../format/quantity.ts";
import { BothCycles } from "../../parts/BothCycles.tsx";
import { Paper } from "../../parts/Paper.tsx";
import { NAMES } from "./Comparison.tsx";
import { Plan } from "./Plan.tsx";

/** The comparison on paper: conditions, stops, every property in words, the plan for the chosen one. */
export default function PrintPage() {
  const id = Number(useParams().id);
  const [params] = useSearchParams();
  const { chosen = "", ...asked } = Object.fromEntries(params);
  const { system } = useSession();
  const { data: circuit } = useQuery(circuitQuery(id));
  const { data, error } = useQuery(retrofitQuery(id, asked));
  if (error) return <Paper title="Another refrigerant">{error.message}</Paper>;
  if (!data) return <p className="p-8 text-soft">Opening …</p>;
  const free = data.rows.filter((row) => !row.stops.length);
  const row = free.find((one) => one.name === chosen) ?? free[0];
  return (
    <Paper title={`What can replace ${data.refrigerant}${circuit ? `, ${circuit.name}` : ""}`}>
      <p className="text-[14px] text-soft">
        {data.assumptions
          .flatMap((item) => (item.amount ? [`${item.label} ${showAmount(item.amount, system)}`] : []))
          .join(" · ")}
      </p>
      <h2 className="mt-4">Stopped</h2>
      <ul className="text-[14px]">
        {data.rows
          .filter((one) => one.stops.length > 0)
          .map((one) => (
            <li key={one.name}>
              <b>{one.name}</b> {one.stops.map((stop) => fill(stop, system)).join(" ")}
            </li>
          ))}
      </ul>
      <Words rows={free} chosen={row?.name ?? ""} />
      {row && (
        <BothCycles
          now={{ refrigerant: data.refrigerant, points: data.cycle }}
          next={{ refrigerant: row.name, points: row.cycle }}
          system={system}
          height={280}
        />
      )}
      {row && <Plan row={row} table={data} />}
    </Paper>
  );
}

function Words({ rows, chosen }: { rows: RetrofitRow[]; chosen: string }) {
  const { system } = useSession();
  return (
    <section className="mt-4" aria-label="Candidates">
      {rows.map((row) => (
        <p key={row.name} className="border-b border-rule py-2 text-[14px]">
          <b>
            {row.name} {row.safety_class}
            {row.name === chosen ? ", chosen" : ""}
          </b>
          {": "}
          {row.properties.map((one) => `${NAMES[one.id] ?? one.id} ${fill(one.said, system)}`).join("; ")}
        </p>
      ))}
    </section>
  );
}
