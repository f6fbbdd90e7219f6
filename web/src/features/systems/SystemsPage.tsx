import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { client, newKey, take } from "../../api/client.ts";
import { systemsQuery, useRows } from "../../api/lists.ts";
import { reportOf } from "../../api/tasks.ts";
import type { CircuitCard } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { ago, show, showAmount } from "../../format/quantity.ts";
import { CsvImport } from "../../parts/CsvImport.tsx";
import { Field } from "../../parts/Field.tsx";
import { More } from "../../parts/More.tsx";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { CircuitPage } from "./CircuitPage.tsx";

/** Sites, machines, circuits; the charge of one as a picture over the years. */
export default function SystemsPage() {
  const { id } = useParams();
  const { me } = useSession();
  const [search, setSearch] = useState("");
  const { rows, loaded, keptAt, error, more } = useRows(systemsQuery({ search: useSettled(search) }));
  const queries = useQueryClient();
  const sites = [...new Set(rows.map((row) => row.site))];
  return (
    <Frame crumb="Systems" place={me.shop}>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[380px_minmax(0,1fr)]">
        <nav
          aria-label="Systems"
          className={`border-rule px-5 py-5 md:overflow-y-auto md:border-r ${id ? "max-md:hidden" : ""}`}
        >
          <div className="flex items-start justify-between gap-3">
            <h1>Systems</h1>
            <CsvImport
              title="Systems from a CSV file"
              columns="site, system, circuit, name, refrigerant, factory_charge, kind, metering, included_length, altitude, serial, oil"
              write={(text, far) =>
                reportOf(take(client.POST("/api/systems/import", { body: { key: newKey(), text } })), far)
              }
              done={() => void queries.invalidateQueries({ queryKey: ["systems"] })}
            />
          </div>
          {error && <p className="note mt-3">{error.message}</p>}
          {keptAt && <p className="note mt-3">No network: this is from {ago(keptAt, Date.now())}.</p>}
          {(rows.length > 0 || search) && (
            <Field label="find" hint="a unit, a site, a refrigerant" value={search} onChange={setSearch} />
          )}
          {loaded && search && rows.length === 0 && (
            <p className="text-[15px] text-soft">Nothing here is called that.</p>
          )}
          {loaded && !search && rows.length === 0 && (
            <p className="mt-4 text-[15px] text-soft">
              No systems yet. A job on a unit not known here makes no system; import a CSV file to begin.
            </p>
          )}
          {sites.map((site) => (
            <section key={site} aria-label={site} className="mt-4">
              <h2 className="border-b border-ink pb-1">{site}</h2>
              <ul>
                {rows
                  .filter((row) => row.site === site)
                  .map((row) => (
                    <CircuitLine key={row.id} row={row} chosen={String(row.id) === id} />
                  ))}
              </ul>
            </section>
          ))}
          <More more={more} />
        </nav>
        <section
          aria-label="One circuit"
          className={`bg-sheet px-5 py-5 md:overflow-y-auto md:px-7 ${id ? "" : "max-md:hidden"}`}
        >
          {id ? (
            <CircuitPage key={id} id={Number(id)} />
          ) : (
            <p className="text-soft">Choose a circuit: its charge over the years, its rate, its jobs.</p>
          )}
        </section>
      </main>
    </Frame>
  );
}

function CircuitLine({ row, chosen }: { row: CircuitCard; chosen: boolean }) {
  const { system } = useSession();
  const { history } = row;
  return (
    <li className="border-b border-rule">
      <Link
        to={`/systems/${row.id}`}
        aria-current={chosen ? "page" : undefined}
        className="block py-2 hover:bg-tint aria-[current]:bg-tint"
      >
        <span className="flex items-baseline justify-between gap-3">
          <b className="text-[16px]">{row.name}</b>
          <VerdictBadge word={history.word} />
        </span>
        <span className="block text-[14px] text-soft">
          {row.code} · {row.refrigerant || "refrigerant?"}
          {history.full ? ` · ${showAmount(history.full, system)}` : ""}
          {history.rate ? ` · loses ${show(history.rate.value, "fraction", system)} a year` : ""}
        </span>
      </Link>
    </li>
  );
}
