import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { systemsQuery, useRows } from "../../api/lists.ts";
import type { CircuitCard } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { nowMs } from "../../device/time.ts";
import { ago, show, showAmount } from "../../format/quantity.ts";
import { Field, Select } from "../../parts/Field.tsx";
import { More } from "../../parts/More.tsx";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { Waiting } from "../../parts/Waiting.tsx";
import { AddMenu } from "./AddMenu.tsx";
import { CircuitPage } from "./CircuitPage.tsx";
import { KINDS } from "./kinds.ts";
import { Overview } from "./Overview.tsx";

/** Sites, machines, circuits; the charge of one as a picture over the years. */
export default function SystemsPage() {
  const { id } = useParams();
  const { me } = useSession();
  const [search, setSearch] = useState("");
  const [kind, setKind] = useState("");
  const [sort, setSort] = useState("");
  const navigate = useNavigate();
  const { rows, loaded, keptAt, error, more } = useRows(
    systemsQuery({
      search: useSettled(search),
      ...(kind && { kind }),
      ...(sort === "name" && { sort }),
    }),
  );
  const narrowed = search !== "" || kind !== "";
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
            <AddMenu onCircuit={(made) => navigate(`/systems/${made}`)} />
          </div>
          {error && <p className="note mt-3">{error.message}</p>}
          {keptAt && <p className="note mt-3">No network: this is from {ago(keptAt, nowMs())}.</p>}
          {(rows.length > 0 || narrowed) && (
            <>
              <Field label="find" hint="a unit, a site, a refrigerant" value={search} onChange={setSearch} />
              <div className="grid grid-cols-2 gap-x-5">
                <Select label="kind" value={kind} options={{ "": "all", ...KINDS }} onChange={setKind} />
                <Select label="sort by" value={sort} options={{ "": "site", name: "name" }} onChange={setSort} />
              </div>
            </>
          )}
          {!loaded && !error && <Waiting rows={6} />}
          {loaded && narrowed && rows.length === 0 && (
            <p className="text-[15px] text-soft">No circuit here is like that.</p>
          )}
          {loaded && !narrowed && rows.length === 0 && (
            <p className="mt-4 text-[16px]">
              No systems yet. Add a site, then the system at it and its circuits; import a CSV file; or close a job on a
              unit: that puts it here.
            </p>
          )}
          {sort === "name" ? (
            <ul className="mt-4 border-t border-ink">
              {rows.map((row) => (
                <CircuitLine key={row.id} row={row} chosen={String(row.id) === id} />
              ))}
            </ul>
          ) : (
            sites.map((site) => (
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
            ))
          )}
          <More more={more} />
        </nav>
        <section
          aria-label="One circuit"
          className={`bg-sheet px-5 py-5 md:overflow-y-auto md:px-7 ${id ? "" : "max-md:hidden"}`}
        >
          {id ? <CircuitPage key={id} id={Number(id)} /> : <Overview />}
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
          {history.rate ? ` · loses ${show(history.rate.value, "yearly_loss", system)} a year` : ""}
        </span>
      </Link>
    </li>
  );
}
