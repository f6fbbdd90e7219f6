import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { cylindersQuery } from "../../api/queries.ts";
import type { BookRow } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { ago, fill, show } from "../../format/quantity.ts";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { AddCylinder } from "./AddCylinder.tsx";
import { Columns } from "./Columns.tsx";
import { ImportCylinders } from "./forms.tsx";
import { Ledger } from "./Ledger.tsx";

/** Every cylinder on one scale, and the account of the one at hand. */
export default function CylindersPage() {
  const { code } = useParams();
  const { me, system } = useSession();
  const navigate = useNavigate();
  const { data, error } = useQuery(cylindersQuery);
  const [show_, setShown] = useState("");
  const rows = (data?.data ?? []).filter((row) => !show_ || row.refrigerant === show_);
  const names = [...new Set((data?.data ?? []).map((row) => row.refrigerant).filter(Boolean))].sort();
  const chosen = rows.find((row) => row.code === code) ?? null;
  const choose = (next: string) => navigate(`/cylinders/${encodeURIComponent(next)}`);
  return (
    <Frame crumb="Cylinders" place={me.shop}>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[minmax(0,1fr)_340px]">
        <section
          aria-label="All cylinders"
          className={`bg-sheet px-5 py-5 md:overflow-y-auto md:px-7 ${chosen ? "max-md:hidden" : ""}`}
        >
          <div className="flex flex-wrap items-start justify-between gap-4">
            <div>
              <h1>Cylinders</h1>
              <p className="text-[14px] text-soft">
                Every column stands on the same scale, so height is what the scale reads.
              </p>
            </div>
            <div className="flex flex-wrap gap-3">
              <AddCylinder />
              <ImportCylinders />
              <a className="btn" href="/api/cylinders/export.csv" download>
                As CSV
              </a>
            </div>
          </div>
          {error && <p className="note mt-3">{error.message}</p>}
          {data?.fromDevice && <p className="note mt-3">No network: this is from {ago(data.at, Date.now())}.</p>}
          {data && data.data.length === 0 && (
            <p className="mt-6 max-w-[520px]">
              No cylinders yet. Add one with what is stamped on its collar and what the scale reads now: from then on
              its contents are the sum of what came and went.
            </p>
          )}
          {names.length > 1 && (
            <label className="mt-3 flex max-w-[320px] items-center gap-3 text-[14px] text-soft">
              refrigerant
              <select className="control" value={show_} onChange={(event) => setShown(event.target.value)}>
                <option value="">all</option>
                {names.map((name) => (
                  <option key={name} value={name}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
          )}
          {rows.length > 0 && (
            <>
              <Columns rows={rows} chosen={chosen?.code ?? null} onChoose={choose} />
              <List rows={rows} chosen={chosen?.code ?? null} onChoose={choose} />
            </>
          )}
        </section>
        <section
          className={`border-rule px-5 py-5 md:overflow-y-auto md:border-l ${chosen ? "" : "max-md:hidden"}`}
          aria-label="Account of one cylinder"
        >
          {chosen && (
            <div className="md:hidden">
              <h1 className="sr-only">Cylinders</h1>
              <Link to="/cylinders" className="mb-2 inline-flex min-h-[44px] items-center text-copper">
                All cylinders
              </Link>
            </div>
          )}
          {chosen ? (
            <Ledger key={chosen.code} code={chosen.code} rows={data?.data ?? []} />
          ) : (
            <p className="text-[14px] text-soft">Tap a cylinder: its account, what can leave it, and every movement.</p>
          )}
        </section>
      </main>
      <footer className="flex min-h-[60px] items-stretch overflow-x-auto border-t border-rule max-md:hidden">
        {totals(rows).map(([label, kg]) => (
          <div key={label} className="border-r border-rule px-5 py-2 whitespace-nowrap">
            <p className="lab">{label}</p>
            <p className="text-[16px] font-semibold">{show(kg, "mass", system)}</p>
          </div>
        ))}
      </footer>
    </Frame>
  );
}

/** What is held by refrigerant; a sum for reading, the accounts are the server's. */
function totals(rows: BookRow[]): [string, number][] {
  const found = new Map<string, number>();
  for (const row of rows) {
    if (!row.refrigerant || row.account.net_kg <= 0) continue;
    const label = `${row.refrigerant} ${row.kind === "new" ? "new" : "recovered"}`;
    found.set(label, (found.get(label) ?? 0) + row.account.net_kg);
  }
  return [...found.entries()];
}

function List({
  rows,
  chosen,
  onChoose,
}: {
  rows: BookRow[];
  chosen: string | null;
  onChoose: (code: string) => void;
}) {
  const { system } = useSession();
  return (
    <ul className="mt-3">
      {rows.map((row) => (
        <li key={row.code} className="border-t border-rule">
          <button
            type="button"
            aria-pressed={row.code === chosen}
            data-testid={`cylinder-${row.code}`}
            className="grid min-h-[56px] w-full items-center gap-x-4 gap-y-1 py-2 text-left hover:bg-tint aria-pressed:bg-tint md:grid-cols-[70px_minmax(0,1fr)_minmax(0,1.1fr)_minmax(0,1.3fr)]"
            onClick={() => onChoose(row.code)}
          >
            <b className="text-[17px]">{row.code}</b>
            <span>
              <b>{row.refrigerant || "empty"}</b>{" "}
              <span className="text-[14px] text-soft">{row.kind === "new" ? "new, one-way" : "refillable"}</span>
              <span className="block text-[14px] text-soft">{row.owner}</span>
            </span>
            <span className="text-[15px]">
              holds <b>{show(row.account.net_kg, "mass", system)}</b>
              <span className="block text-[14px] text-soft">
                {row.account.room_kg !== null
                  ? `room ${show(row.account.room_kg, "mass", system)}`
                  : row.kind === "new"
                    ? "never refilled"
                    : "no limit known"}
                {row.retest ? ` · retest ${row.retest}` : ""}
              </span>
            </span>
            <span className="text-[14px]">
              <span className="flex items-center gap-2">
                <VerdictBadge word={row.account.word} />
                <b>{row.account.badge}</b>
              </span>
              <span className="text-soft">{fill(row.account.reason, system)}</span>
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}
