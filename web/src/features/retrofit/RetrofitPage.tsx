import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { client, newKey, saidOf, take } from "../../api/client.ts";
import { circuitQuery, type RetrofitAsk } from "../../api/queries.ts";
import type { RetrofitTable } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { inUnit, unitFor } from "../../format/quantity.ts";
import { Field } from "../../parts/Field.tsx";
import { Comparison, Stopped } from "./Comparison.tsx";
import { Cycles } from "./Cycles.tsx";
import { Plan } from "./Plan.tsx";
import { useFollowed } from "./useFollowed.ts";

/** What else could be in this circuit: stops first, then differences, then how much of it and what changes with it. */
export default function RetrofitPage() {
  const id = Number(useParams().id);
  const [params, setParams] = useSearchParams();
  const { chosen = "", ...asked } = Object.fromEntries(params);
  const [wish, setWish] = useState<RetrofitAsk>(asked);
  const { data: circuit } = useQuery(circuitQuery(id));
  const { table: data, error, ask } = useFollowed(id, asked);
  const keep = (next: RetrofitAsk, name = chosen) => {
    const said = Object.entries(next).filter(([, text]) => text.trim());
    setParams(name ? [...said, ["chosen", name]] : said, { replace: true });
  };
  const settle = (next: RetrofitAsk) => {
    ask(next);
    keep(next);
  };
  const slide = (next: RetrofitAsk) => {
    setWish(next);
    ask(next);
  };
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
          {data && <Assumptions table={data} wish={wish} onType={setWish} onDone={() => settle(wish)} />}
          {error && (
            <p className="note stop mt-3" role="alert">
              {error.message}
            </p>
          )}
          {data && data.lacks.length > 0 && (
            <p className="note mt-3">The plate does not say {data.lacks.join(", ")}: that part is not judged.</p>
          )}
          {data && <Stopped rows={data.rows.filter((one) => one.stops.length > 0)} />}
          {data && <Comparison rows={free} chosen={row?.name ?? ""} onChoose={(name) => keep(wish, name)} />}
          {data && row && <Cycles table={data} row={row} wish={wish} onSlide={slide} onDone={() => keep(wish)} />}
        </main>
        <aside className="border-rule px-5 py-5 md:overflow-y-auto md:border-l" aria-label="The plan">
          {row && data && (
            <Plan row={row} table={data}>
              <MakeIt circuit={id} name={row.name} conditions={wish} />
              <a
                className="btn"
                href={`/systems/${id}/retrofit/print?${new URLSearchParams({ ...asked, chosen: row.name })}`}
                target="_blank"
                rel="noreferrer"
              >
                Print the comparison
              </a>
            </Plan>
          )}
        </aside>
      </div>
    </Frame>
  );
}

/** What the comparison hangs on, open to change. */
function Assumptions({
  table,
  wish,
  onType,
  onDone,
}: {
  table: RetrofitTable;
  wish: RetrofitAsk;
  onType: (wish: RetrofitAsk) => void;
  onDone: () => void;
}) {
  const { system } = useSession();
  const usual = ({ amount }: RetrofitTable["assumptions"][number]) => {
    if (!amount) return "";
    const unit = unitFor(amount.quantity, system);
    return `${inUnit(amount.value, amount.quantity, unit)} ${unit}`;
  };
  return (
    <form
      className="mt-3 grid grid-cols-2 gap-x-5 border-t border-ink lg:grid-cols-7"
      aria-label="Assumptions"
      onBlur={onDone}
      onSubmit={(event) => {
        event.preventDefault();
        onDone();
      }}
    >
      {table.assumptions.map((item) => (
        <Field
          key={item.id}
          label={item.label}
          value={wish[item.id] ?? usual(item)}
          onChange={(text) => onType({ ...wish, [item.id]: text })}
        />
      ))}
    </form>
  );
}

/** The chosen one becomes a job with its own steps, at the conditions it was compared at. */
function MakeIt({ circuit, name, conditions }: { circuit: number; name: string; conditions: RetrofitAsk }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [refused, setRefused] = useState("");
  const [key] = useState(newKey);
  const go = async () => {
    setRefused("");
    try {
      const said = Object.fromEntries(Object.entries(conditions).filter(([, text]) => text.trim()));
      const body = { kind: "retrofit" as const, title: "", circuit_id: circuit };
      const change = { refrigerant: name, conditions: said };
      const state = await take(client.POST("/api/jobs", { body: { ...body, key: `${key}-${name}`, change } }));
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      navigate(`/job/${state.code}`);
    } catch (error) {
      setRefused(saidOf(error));
    }
  };
  return (
    <>
      <button type="button" className="btn go" onClick={() => void go()}>
        Make it the job: {name}
      </button>
      {refused && (
        <span className="note stop" role="alert">
          {refused}
        </span>
      )}
    </>
  );
}
