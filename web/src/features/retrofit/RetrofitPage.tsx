import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { circuitQuery, type RetrofitAsk, retrofitQuery } from "../../api/queries.ts";
import type { RetrofitRow, RetrofitTable } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { fill, inUnit, show, unitFor } from "../../format/quantity.ts";
import { Field } from "../../parts/Field.tsx";
import { Weight } from "../../parts/Weight.tsx";
import { Comparison, Stopped } from "./Comparison.tsx";

/** What else could be in this circuit: stops first, then differences, then how much of it and what changes with it. */
export default function RetrofitPage() {
  const id = Number(useParams().id);
  const [params, setParams] = useSearchParams();
  const { chosen = "", ...asked } = Object.fromEntries(params);
  const { data: circuit } = useQuery(circuitQuery(id));
  const { data: fresh, error } = useQuery(retrofitQuery(id, asked));
  const [kept, setKept] = useState<RetrofitTable>();
  const data = fresh ?? kept;
  useEffect(() => {
    if (fresh) setKept(fresh);
  }, [fresh]);
  const setAsked = (next: RetrofitAsk) => {
    const said = Object.entries(next).filter(([, text]) => text.trim());
    setParams(chosen ? [...said, ["chosen", chosen]] : said, { replace: true });
  };
  const setChosen = (name: string) => setParams({ ...asked, chosen: name }, { replace: true });
  const free = data?.rows.filter((row) => !row.stops.length) ?? [];
  const row = free.find((one) => one.name === chosen) ?? free[0];
  return (
    <Frame crumb={circuit ? `${circuit.name}, another refrigerant` : "Another refrigerant"}>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[minmax(0,1fr)_316px]">
        <main className="bg-sheet px-5 py-5 md:overflow-y-auto md:px-7">
          <Link to={`/systems/${id}`} className="inline-flex min-h-[44px] items-center text-copper">
            {circuit?.name ?? "The circuit"}
          </Link>
          <h1>What can replace {data?.refrigerant ?? "it"} here</h1>
          <p className="text-[14px] text-soft">
            A simple cycle in the same compressor compares; it does not say what a unit will do. The upright mark is
            what is in it now, or the plate's limit.
          </p>
          {data && <Assumptions key={data.refrigerant} table={data} asked={asked} onChange={setAsked} />}
          {error && (
            <p className="note stop mt-3" role="alert">
              {error.message}
            </p>
          )}
          {data && data.lacks.length > 0 && (
            <p className="note mt-3">The plate does not say {data.lacks.join(", ")}: that part is not judged.</p>
          )}
          {data && <Stopped rows={data.rows.filter((one) => one.stops.length > 0)} />}
          {data && <Comparison rows={free} chosen={row?.name ?? ""} onChoose={setChosen} />}
        </main>
        <aside className="border-rule px-5 py-5 md:overflow-y-auto md:border-l" aria-label="The plan">
          {row && data && <Plan row={row} table={data} />}
        </aside>
      </div>
    </Frame>
  );
}

/** What the comparison hangs on, open to change. */
function Assumptions({
  table,
  asked,
  onChange,
}: {
  table: RetrofitTable;
  asked: RetrofitAsk;
  onChange: (asked: RetrofitAsk) => void;
}) {
  const { system } = useSession();
  const [texts, setTexts] = useState<RetrofitAsk>(asked);
  return (
    <form
      className="mt-3 grid grid-cols-2 gap-x-5 border-t border-ink lg:grid-cols-6"
      aria-label="Assumptions"
      onBlur={() => onChange(texts)}
      onSubmit={(event) => {
        event.preventDefault();
        onChange(texts);
      }}
    >
      {table.assumptions.map((item) => {
        const unit = unitFor(item.amount.quantity, system);
        return (
          <Field
            key={item.id}
            label={item.label}
            value={texts[item.id] ?? `${inUnit(item.amount.value, item.amount.quantity, unit)} ${unit}`}
            onChange={(text) => setTexts({ ...texts, [item.id]: text })}
          />
        );
      })}
    </form>
  );
}

/** How much of the chosen one goes in, and what changes with it. */
function Plan({ row, table }: { row: RetrofitRow; table: RetrofitTable }) {
  const { system } = useSession();
  return (
    <div data-testid="plan">
      <h2 className="text-soft">Plan for {row.name}</h2>
      {row.start && row.final && table.full ? (
        <>
          <p className="mt-2 text-[16px] font-semibold text-copper">Start with</p>
          <Weight kg={row.start.value} system={system} label="start with" />
          <dl className="mt-3 border-t border-rule text-[14px]">
            <Line label={`${table.refrigerant}, full, with its lines`} value={show(table.full.value, "mass", system)} />
            <Line label="liquid density, new over old" value={`× ${(row.ratio ?? 1).toFixed(3)}`} />
            <Line label="expected in the end" value={show(row.final.value, "mass", system)} />
          </dl>
          <p className="mt-2 text-[13px] text-soft">
            From the correct full charge, never from what was recovered after a leak. Then trimmed in steps towards the
            end.
          </p>
        </>
      ) : (
        <p className="mt-2 text-[14px] text-soft">
          The plate gives no full charge: without it there is no start. What was recovered after a leak is not it.
        </p>
      )}
      <h2 className="mt-4">Change with it</h2>
      <ul className="mt-1 grid gap-1 text-[14px]">
        {row.changes.map((change) => (
          <li key={change.text} className="border-l-4 border-[var(--edge)] pl-3">
            {fill(change, system)}
          </li>
        ))}
      </ul>
      <p className="note mt-4">
        Nothing is ever topped up with another refrigerant, and nothing is mixed in a cylinder. The maker's
        instructions, the data plate and local law prevail.
      </p>
    </div>
  );
}

function Line({ label, value }: { label: string; value: string }) {
  return (
    <div className="flex justify-between gap-3 border-b border-rule py-1">
      <dt className="text-soft">{label}</dt>
      <dd className="font-semibold whitespace-nowrap">{value}</dd>
    </div>
  );
}
