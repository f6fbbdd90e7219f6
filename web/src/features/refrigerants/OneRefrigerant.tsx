import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { circuitsQuery, useRows } from "../../api/lists.ts";
import { type SaturationAsk, saturationQuery } from "../../api/queries.ts";
import type { RefrigerantRow } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill, show, unitFor } from "../../format/quantity.ts";
import { Toggle } from "../../ui/Toggle.tsx";
import { Chart } from "./Chart.tsx";
import { Facts } from "./Facts.tsx";
import { Answer, Ask, Table } from "./Saturation.tsx";
import { SaturationTape } from "./SaturationTape.tsx";

export function Glide({ row }: { row: RefrigerantRow }) {
  const { system } = useSession();
  return (
    <span className="lab block whitespace-nowrap">
      {row.safety_class} · {row.glide_k < 0.05 ? "no glide" : `glide ${show(row.glide_k, "temperature_delta", system)}`}
    </span>
  );
}

export function OneRefrigerant({ row }: { row: RefrigerantRow }) {
  const { system } = useSession();
  const { rows: circuits } = useRows(circuitsQuery());
  const here = (circuits[0]?.plate as { altitude?: { text?: string } } | undefined)?.altitude?.text;
  const [typed, setTyped] = useState<Partial<SaturationAsk>>({});
  const ask: SaturationAsk = {
    pressure: system === "us" ? "118" : "8",
    temperature: system === "us" ? "100" : "38",
    altitude: here ?? "0 m",
    gauge: "vented",
    ...typed,
    units: system,
  };
  const { data, error } = useQuery(saturationQuery(row.name, ask));
  const problem = (path: string) => {
    const found = data?.problems.find((p) => p.path === path);
    return found && fill(found.message, system);
  };
  const set = (part: Partial<SaturationAsk>) => setTyped((before) => ({ ...before, ...part }));
  return (
    <>
      <main className="bg-sheet px-5 py-5 md:overflow-y-auto md:px-7">
        <h1>{row.name}</h1>
        <p className="text-[14px] text-soft">
          {row.liquid_only
            ? "Blend: it leaves the cylinder as liquid, throttled on the suction side."
            : "Single component: liquid or vapour."}
        </p>
        <div className="mt-3 grid grid-cols-2 gap-x-6 border-t border-ink pt-2">
          <Ask
            id="altitude"
            label="site altitude"
            value={ask.altitude}
            onChange={(altitude) => set({ altitude })}
            problem={problem("/altitude")}
            said={data && `air ${show(data.site_pressure_pa, "pressure", system)}`}
          />
          <div>
            <p className="lab mb-1">gauge</p>
            <Toggle
              label="Gauge"
              value={ask.gauge}
              options={{ vented: "Vented", sealed: "Sealed" }}
              onChange={(gauge) => set({ gauge })}
            />
          </div>
        </div>
        {error && <p className="note stop mt-3">{error.message}</p>}
        <div className="mt-3 grid gap-x-6 border-t border-ink pt-2 md:grid-cols-[190px_1fr_1fr_1fr]">
          <Ask
            id="pressure"
            label={`pressure, ${unitFor("gauge_pressure", system)}`}
            value={ask.pressure}
            onChange={(pressure) => set({ pressure })}
            problem={problem("/pressure")}
          />
          <Answer label="bubble" value={data?.bubble_k} quantity="temperature" system={system} />
          <Answer label="glide" value={data?.glide_k} quantity="temperature_delta" system={system} />
          <Answer label="dew" value={data?.dew_k} quantity="temperature" system={system} />
        </div>
        {data?.sealed_dew_k != null && data.dew_k != null && (
          <p className="text-[14px] text-soft">
            The same reading on a {ask.gauge === "vented" ? "sealed" : "vented"} gauge: dew{" "}
            <b className="text-ink">{show(data.sealed_dew_k, "temperature", system)}</b>
          </p>
        )}
        <div className="mt-3 grid gap-x-6 border-t border-rule pt-2 md:grid-cols-[190px_1fr_1fr_1fr]">
          <Ask
            id="temperature"
            label={`or temperature, ${unitFor("temperature", system)}`}
            value={ask.temperature}
            onChange={(temperature) => set({ temperature })}
            problem={problem("/temperature")}
          />
          <Answer label="bubble" value={data?.bubble_gauge_pa} quantity="gauge_pressure" system={system} />
          <Answer label="dew" value={data?.dew_gauge_pa} quantity="gauge_pressure" system={system} />
          <div className="text-[14px]">
            <p className="lab">liquid, vapour density</p>
            {data?.liquid_kg_m3 != null && (
              <p className="num text-[18px]">{show(data.liquid_kg_m3, "density", system)}</p>
            )}
            {data?.vapor_kg_m3 != null && (
              <p className="num text-[18px]">{show(data.vapor_kg_m3, "density", system)}</p>
            )}
          </div>
        </div>
        <Chart name={row.name} />
        <Facts row={row} critical={data?.critical_k} system={system} />
        {data && <Table data={data} system={system} />}
        <p className="mt-4">
          <a
            className="btn"
            href={`/refrigerants/${encodeURIComponent(row.name)}/print?${new URLSearchParams({ altitude: ask.altitude, gauge: ask.gauge })}`}
            target="_blank"
            rel="noreferrer"
          >
            Print this sheet
          </a>
        </p>
      </main>
      <aside className="border-rule px-4 py-5 md:overflow-y-auto md:border-l" aria-label="Temperature tape">
        <h2 className="text-soft">Saturation at one pressure</h2>
        {data && <SaturationTape data={data} system={system} />}
        <p className="mt-3 border-t border-rule pt-3 text-[14px]">
          <b>Superheat from dew, subcooling from bubble.</b>{" "}
          <span className="text-soft">A blend never has one boiling temperature.</span>
        </p>
      </aside>
    </>
  );
}
