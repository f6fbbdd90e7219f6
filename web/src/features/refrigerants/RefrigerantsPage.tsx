import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { circuitsQuery, refrigerantsQuery, type SaturationAsk, saturationQuery } from "../../api/queries.ts";
import type { RefrigerantRow, SaturationState, System } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { fill, inUnit, show, unitFor } from "../../format/quantity.ts";
import { Toggle } from "../../ui/Toggle.tsx";
import { Chart } from "./Chart.tsx";
import { SaturationTape } from "./SaturationTape.tsx";

export default function RefrigerantsPage() {
  const { data } = useQuery(refrigerantsQuery);
  const { name } = useParams();
  const [wanted, setWanted] = useState("");
  const all = data?.data ?? [];
  const current = all.find((r) => r.name === name) ?? all[0];
  const squeezed = wanted.toLowerCase().replace(/[\s-]/g, "");
  const shown = all.filter((r) => r.name.toLowerCase().replace(/-/g, "").includes(squeezed));
  return (
    <Frame crumb="Refrigerants">
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[206px_minmax(0,1fr)_316px]">
        <nav
          aria-label="All refrigerants"
          className="border-rule max-md:border-b max-md:p-3 md:overflow-y-auto md:border-r md:p-4"
        >
          <label className="lab" htmlFor="find">
            find a refrigerant
          </label>
          <input
            id="find"
            className="control"
            value={wanted}
            onChange={(e) => setWanted(e.target.value)}
            autoComplete="off"
          />
          <ul className="mt-2 max-md:flex max-md:gap-2 max-md:overflow-x-auto">
            {shown.map((r) => (
              <li key={r.name} className="max-md:shrink-0">
                <Link
                  to={`/refrigerants/${encodeURIComponent(r.name)}`}
                  aria-current={r.name === current?.name ? "page" : undefined}
                  className="block min-h-[48px] border-l-4 border-transparent py-1 pl-3 aria-[current=page]:border-copper aria-[current=page]:bg-tint"
                >
                  <b className={`block text-[15px] ${r.name === current?.name ? "text-copper" : ""}`}>{r.name}</b>
                  <Glide row={r} />
                </Link>
              </li>
            ))}
          </ul>
          {all.length > 0 && shown.length === 0 && (
            <p className="mt-2 text-[14px] text-soft">Not in the catalogue. A plan by weight is still possible.</p>
          )}
        </nav>
        {current && <OneRefrigerant row={current} />}
      </div>
    </Frame>
  );
}

function Glide({ row }: { row: RefrigerantRow }) {
  const { system } = useSession();
  return (
    <span className="lab block whitespace-nowrap">
      {row.safety_class} · {row.glide_k < 0.05 ? "no glide" : `glide ${show(row.glide_k, "temperature_delta", system)}`}
    </span>
  );
}

function OneRefrigerant({ row }: { row: RefrigerantRow }) {
  const { system } = useSession();
  const { data: circuits } = useQuery(circuitsQuery);
  const here = (circuits?.data[0]?.plate as { altitude?: { text?: string } } | undefined)?.altitude?.text;
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

function Ask(props: {
  id: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
  problem?: string;
  said?: string;
}) {
  return (
    <div>
      <label className="lab block" htmlFor={props.id}>
        {props.label}
      </label>
      <input
        id={props.id}
        className="control"
        style={{ fontSize: 24 }}
        inputMode="decimal"
        value={props.value}
        aria-invalid={props.problem ? true : undefined}
        aria-describedby={`${props.id}-said`}
        onChange={(e) => props.onChange(e.target.value)}
      />
      <p id={`${props.id}-said`} className="min-h-[18px] text-[13px]">
        {props.problem ? (
          <span className="font-medium text-stop">{props.problem}</span>
        ) : (
          <span className="text-soft">{props.said}</span>
        )}
      </p>
    </div>
  );
}

function Answer({
  label,
  value,
  quantity,
  system,
}: {
  label: string;
  value: number | null | undefined;
  quantity: string;
  system: System;
}) {
  const unit = unitFor(quantity, system);
  return (
    <div data-testid={`${label}-${quantity}`}>
      <p className="lab">{label}</p>
      <p className="num text-[30px] leading-[38px]">
        {value == null ? "—" : inUnit(value, quantity, unit)}{" "}
        <span className="text-[15px] font-normal text-soft">{unit}</span>
      </p>
    </div>
  );
}

export function Facts({
  row,
  critical,
  system,
}: {
  row: RefrigerantRow;
  critical: number | undefined;
  system: System;
}) {
  const parts = row.parts as { name: string; mass_share: number }[];
  const facts: [string, string][] = [
    ["safety class", row.safety_class],
    ["GWP, AR4", String(Math.round(row.gwp_ar4))],
    ["oils", row.oils.join(", ")],
    ["critical", critical ? show(critical, "temperature", system) : ""],
    [
      "by mass",
      parts.length > 1
        ? parts.map((p) => `${p.name} ${inUnit(p.mass_share, "fraction", "%").replace(/\.0$/, "")} %`).join(" · ")
        : "single component",
    ],
  ];
  return (
    <dl className="mt-3 flex flex-wrap gap-x-8 gap-y-2 border-t border-rule pt-3">
      {facts.map(([label, text]) => (
        <div key={label}>
          <dt className="lab">{label}</dt>
          <dd className="font-semibold">{text}</dd>
        </div>
      ))}
    </dl>
  );
}

export function Table({ data, system }: { data: SaturationState; system: System }) {
  const pressure = unitFor("gauge_pressure", system);
  const temperature = unitFor("temperature", system);
  return (
    <table className="table mt-4 max-w-[460px]">
      <caption className="sr-only">Saturation pressures</caption>
      <thead>
        <tr>
          <th>{temperature}</th>
          <th>bubble, {pressure}</th>
          <th>dew, {pressure}</th>
        </tr>
      </thead>
      <tbody>
        {data.table.map((line) => (
          <tr key={line.temperature_k}>
            <td>{inUnit(line.temperature_k, "temperature", temperature, 0)}</td>
            <td>{inUnit(line.bubble_gauge_pa, "gauge_pressure", pressure)}</td>
            <td>{inUnit(line.dew_gauge_pa, "gauge_pressure", pressure)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
