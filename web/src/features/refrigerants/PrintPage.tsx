import { useQuery } from "@tanstack/react-query";
import { useParams, useSearchParams } from "react-router";
import { chartQuery, refrigerantsQuery, saturationQuery } from "../../api/queries.ts";
import { useSession } from "../../app/session.ts";
import { show } from "../../format/quantity.ts";
import { Paper } from "../../parts/Paper.tsx";
import { PhChart } from "../../parts/PhChart.tsx";
import { Facts } from "./Facts.tsx";
import { Table } from "./Saturation.tsx";

/** One refrigerant on paper for one site: what it is, its saturation table on this site's gauge, its chart. */
export default function PrintPage() {
  const { name = "" } = useParams();
  const [params] = useSearchParams();
  const { system } = useSession();
  const altitude = params.get("altitude") ?? "0 m";
  const gauge = params.get("gauge") ?? "vented";
  const ask = { pressure: "", temperature: "", altitude, gauge, units: system };
  const { data: all } = useQuery(refrigerantsQuery);
  const { data, error } = useQuery(saturationQuery(name, ask));
  const { data: chart } = useQuery(chartQuery(name, system));
  const row = all?.data.find((one) => one.name === name);
  if (error) return <Paper title={name}>{error.message}</Paper>;
  if (!row || !data) return <p className="p-8 text-soft">Opening …</p>;
  return (
    <Paper title={row.name}>
      <p className="text-[14px] text-soft">
        Site at {altitude}, air pressure {show(data.site_pressure_pa, "gauge_pressure_delta", system)}, gauges {gauge}.
        Superheat from dew, subcooling from bubble.
        {row.liquid_only ? " It leaves the cylinder as liquid." : ""}
      </p>
      <Facts row={row} critical={data.critical_k} system={system} />
      {chart && <PhChart domes={[chart.chart]} ways={[]} system={system} height={300} />}
      <Table data={data} system={system} />
    </Paper>
  );
}
