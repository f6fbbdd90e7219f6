import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { circuitsQuery, useRows } from "../../api/lists.ts";
import { chartQuery, type SaturationAsk, saturationQuery } from "../../api/queries.ts";
import type { JobPoints, RefrigerantRow, SaturationState, System } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { show, unitFor } from "../../format/quantity.ts";
import { Toggle } from "../../ui/Toggle.tsx";
import { Chart, OfAJob } from "./Chart.tsx";
import { Facts } from "./Facts.tsx";
import { Answer, Ask, Table } from "./Saturation.tsx";
import { type From, SaturationCurve } from "./SaturationCurve.tsx";

export function Glide({ row }: { row: RefrigerantRow }) {
  const { system } = useSession();
  return (
    <span className="lab block whitespace-nowrap">
      {row.safety_class} · {row.glide_k < 0.05 ? "no glide" : `glide ${show(row.glide_k, "temperature_delta", system)}`}
    </span>
  );
}

/** Both directions at the site's altitude; the picture is dragged or typed, and a job's readings stand on it. */
export function OneRefrigerant({ row }: { row: RefrigerantRow }) {
  const { system } = useSession();
  const { rows: circuits } = useRows(circuitsQuery());
  const here = (circuits[0]?.plate as { altitude?: { text?: string } } | undefined)?.altitude?.text;
  const [typed, setTyped] = useState<Partial<SaturationAsk>>({});
  const [from, setFrom] = useState<From>("pressure");
  const [job, setJob] = useState("");
  const ask: SaturationAsk = {
    pressure: system === "us" ? "118" : "8",
    temperature: system === "us" ? "100" : "38",
    altitude: here ?? "0 m",
    gauge: "vented",
    ...typed,
    units: system,
  };
  const { data, error } = useQuery(saturationQuery(row.name, ask));
  const { data: chart } = useQuery(chartQuery(row.name, system, job));
  const points = chart?.points[chart.points.length - 1];
  const problem = (path: string) => {
    const found = data?.problems.find((p) => p.path === path);
    return found && fill(found.message, system);
  };
  const set = (part: Partial<SaturationAsk>) => setTyped((before) => ({ ...before, ...part }));
  const rows = { data, system, ask, set, problem };
  return (
    <>
      <main className="bg-sheet px-5 py-5 md:overflow-y-auto md:px-7">
        <div className="flex flex-wrap items-start justify-between gap-3 border-b border-ink pb-3">
          <div>
            <h1>{row.name}</h1>
            <p className="text-[14px] text-soft">
              {row.liquid_only
                ? "Blend: it leaves the cylinder as liquid, throttled on the suction side."
                : "Single component: liquid or vapour."}
            </p>
          </div>
          <Toggle
            label="Which way"
            value={from}
            options={{ pressure: "from pressure", temperature: "from temperature" }}
            onChange={(next) => setFrom(next as From)}
          />
        </div>
        {error && <p className="note stop mt-3">{error.message}</p>}
        {from === "pressure" ? <FromPressure {...rows} large /> : <FromTemperature {...rows} large />}
        {data && (
          <div className="mt-2">
            <SaturationCurve
              data={data}
              system={system}
              from={from}
              points={points}
              onMove={(text) => set(from === "pressure" ? { pressure: text } : { temperature: text })}
            />
            <p className="text-[14px] text-soft">Drag it, type it, or use the arrow keys.</p>
          </div>
        )}
        <div className="mt-2 border-t border-rule pt-2">
          {from === "pressure" ? <FromTemperature {...rows} /> : <FromPressure {...rows} />}
        </div>
        <Chart name={row.name} job={job} />
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
      <aside className="border-rule px-4 py-5 md:overflow-y-auto md:border-l" aria-label="Gauge, readings, facts">
        <h2>Gauge and place</h2>
        <div className="mt-1">
          <Toggle
            label="Gauge"
            value={ask.gauge}
            options={{ vented: "Vented", sealed: "Sealed" }}
            onChange={(gauge) => set({ gauge })}
          />
        </div>
        <Ask
          id="altitude"
          label="site altitude"
          value={ask.altitude}
          onChange={(altitude) => set({ altitude })}
          problem={problem("/altitude")}
          said={data && `air pressure ${show(data.site_pressure_pa, "gauge_pressure_delta", system)}`}
        />
        {data?.sealed_dew_k != null && data.dew_k != null && (
          <p className="mt-1 border-t border-rule pt-2 text-[15px]">
            The same reading on a {ask.gauge === "vented" ? "sealed" : "vented"} gauge: dew{" "}
            <b>{show(data.sealed_dew_k, "temperature", system)}</b>
          </p>
        )}
        <h2 className="mt-5">Readings on it</h2>
        <OfAJob job={job} onChoose={setJob} />
        {points ? (
          <Drops points={points} system={system} />
        ) : (
          <p className="mt-1 text-[14px] text-soft">
            {job
              ? `Nothing was read on this job with ${row.name} inside that these tables reach.`
              : "Superheat is measured from dew, subcooling from bubble. A blend never has one boiling temperature."}
          </p>
        )}
        <h2 className="mt-5">{row.name} itself</h2>
        <Facts row={row} critical={data?.critical_k} system={system} />
      </aside>
    </>
  );
}

type Rows = {
  data: SaturationState | undefined;
  system: System;
  ask: SaturationAsk;
  set: (part: Partial<SaturationAsk>) => void;
  problem: (path: string) => string | undefined;
  large?: boolean;
};

function FromPressure({ data, system, ask, set, problem, large }: Rows) {
  return (
    <div className="mt-2 grid grid-cols-2 gap-x-6 lg:grid-cols-[190px_1fr_1fr_1fr]">
      <Ask
        id="pressure"
        label={`${large ? "" : "or "}pressure, ${unitFor("gauge_pressure", system)}`}
        value={ask.pressure}
        onChange={(pressure) => set({ pressure })}
        problem={problem("/pressure")}
      />
      <Answer label="bubble" value={data?.bubble_k} quantity="temperature" system={system} large={large} />
      <Answer label="dew" value={data?.dew_k} quantity="temperature" system={system} large={large} />
      <Answer label="glide" value={data?.glide_k} quantity="temperature_delta" system={system} large={large} />
    </div>
  );
}

function FromTemperature({ data, system, ask, set, problem, large }: Rows) {
  return (
    <div className="mt-2 grid grid-cols-2 gap-x-6 lg:grid-cols-[190px_1fr_1fr_1fr]">
      <Ask
        id="temperature"
        label={`${large ? "" : "or "}temperature, ${unitFor("temperature", system)}`}
        value={ask.temperature}
        onChange={(temperature) => set({ temperature })}
        problem={problem("/temperature")}
      />
      <Answer label="bubble" value={data?.bubble_gauge_pa} quantity="gauge_pressure" system={system} large={large} />
      <Answer label="dew" value={data?.dew_gauge_pa} quantity="gauge_pressure" system={system} large={large} />
      <div className="text-[14px]">
        <p className="lab">liquid, vapour density</p>
        {data?.liquid_kg_m3 != null && <p className="num text-[18px]">{show(data.liquid_kg_m3, "density", system)}</p>}
        {data?.vapor_kg_m3 != null && <p className="num text-[18px]">{show(data.vapor_kg_m3, "density", system)}</p>}
      </div>
    </div>
  );
}

/** What the job's readings make against these lines. */
function Drops({ points, system }: { points: JobPoints; system: System }) {
  const rows = [
    ["suction line", points.suction, "superheat", points.superheat_k],
    ["liquid line", points.liquid, "subcooling", points.subcooling_k],
  ] as const;
  return (
    <dl className="text-[15px]" data-testid="drops">
      {rows.map(([name, point, word, by]) =>
        point && by != null ? (
          <div key={name} className="flex justify-between gap-2 border-b border-rule py-2">
            <dt>
              {name} {show(point.temperature_k, "temperature", system)}
            </dt>
            <dd className="font-semibold">
              {word} {show(by, "temperature_delta", system)}
            </dd>
          </div>
        ) : null,
      )}
    </dl>
  );
}
