import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { cylindersQuery, heldQuery, useRows } from "../../api/lists.ts";
import type { BookRow, Held } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { nowMs } from "../../device/time.ts";
import { fill } from "../../format/message.ts";
import { ago, show } from "../../format/quantity.ts";
import { Field, Select } from "../../parts/Field.tsx";
import { More } from "../../parts/More.tsx";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { Waiting } from "../../parts/Waiting.tsx";
import { Scrollable } from "../../ui/Scrollable.tsx";
import { AddCylinder } from "./AddCylinder.tsx";
import { Columns } from "./Columns.tsx";
import { ImportCylinders } from "./forms.tsx";
import { Ledger } from "./Ledger.tsx";

/** Every cylinder on one scale, and the account of the one at hand. */
export default function CylindersPage() {
  const { code } = useParams();
  const { me, system } = useSession();
  const navigate = useNavigate();
  const [refrigerant, setRefrigerant] = useState("");
  const [search, setSearch] = useState("");
  const [kind, setKind] = useState("");
  const [sort, setSort] = useState("");
  const { rows, loaded, keptAt, error, more } = useRows(
    cylindersQuery({
      refrigerant,
      search: useSettled(search),
      ...(kind && { kind: kind as "new" | "recovery" }),
      ...(sort && { sort: sort as "refrigerant" | "retest" }),
    }),
  );
  const narrowed = search !== "" || refrigerant !== "" || kind !== "";
  const { data: all } = useQuery(heldQuery);
  const held = all?.data.rows ?? [];
  const names = [...new Set(held.map((row) => row.refrigerant))];
  const choose = (next: string) => navigate(`/cylinders/${encodeURIComponent(next)}`);
  return (
    <Frame crumb="Cylinders" place={me.shop}>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[minmax(0,1fr)_340px]">
        <section
          aria-label="All cylinders"
          className={`bg-sheet px-5 py-5 md:overflow-y-auto md:px-7 ${code ? "max-md:hidden" : ""}`}
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
          {keptAt && <p className="note mt-3">No network: this is from {ago(keptAt, nowMs())}.</p>}
          {!loaded && !error && <Waiting rows={5} />}
          {loaded && rows.length === 0 && narrowed && <p className="mt-6">No cylinder here is like that.</p>}
          {loaded && rows.length === 0 && !narrowed && (
            <p className="mt-6 max-w-[520px]">
              No cylinders yet. Add one with what is stamped on its collar and what the scale reads now: from then on
              its contents are the sum of what came and went.
            </p>
          )}
          {(rows.length > 0 || narrowed) && (
            <div className="mt-1 grid max-w-[820px] grid-cols-2 gap-x-5 md:grid-cols-4">
              <Field label="find" hint="a number, an owner" value={search} onChange={setSearch} />
              {names.length > 1 && (
                <Select
                  label="refrigerant"
                  value={refrigerant}
                  options={{ "": "all", ...Object.fromEntries(names.map((name) => [name, name])) }}
                  onChange={setRefrigerant}
                />
              )}
              <Select label="kind" value={kind} options={CYLINDER_KINDS} onChange={setKind} />
              <Select label="sort by" value={sort} options={CYLINDER_SORTS} onChange={setSort} />
            </div>
          )}
          {rows.length > 0 && (
            <>
              <Columns rows={rows} chosen={code ?? null} onChoose={choose} />
              <List rows={rows} chosen={code ?? null} onChoose={choose} />
              <More more={more} />
            </>
          )}
        </section>
        <section
          className={`border-rule px-5 py-5 md:overflow-y-auto md:border-l ${code ? "" : "max-md:hidden"}`}
          aria-label="Account of one cylinder"
        >
          {code && (
            <div className="md:hidden">
              <h1 className="sr-only">Cylinders</h1>
              <Link to="/cylinders" className="mb-2 inline-flex min-h-[44px] items-center text-copper">
                All cylinders
              </Link>
            </div>
          )}
          {code ? (
            <Ledger key={code} code={code} />
          ) : (
            <p className="text-[14px] text-soft">Tap a cylinder: its account, what can leave it, and every movement.</p>
          )}
        </section>
      </main>
      <Scrollable
        label="What the shop holds"
        className="flex min-h-[60px] shrink-0 items-stretch border-t border-rule max-md:hidden"
      >
        {totals(held).map(([label, kg]) => (
          <div key={label} className="border-r border-rule px-5 py-2 whitespace-nowrap">
            <p className="lab">{label}</p>
            <p className="text-[16px] font-semibold">{show(kg, "mass", system)}</p>
          </div>
        ))}
      </Scrollable>
    </Frame>
  );
}

const CYLINDER_KINDS = { "": "all", new: "one-way, new", recovery: "refillable" };
const CYLINDER_SORTS = { "": "number", refrigerant: "refrigerant", retest: "next retest" };

/** What the shop holds, by refrigerant and kind; the server's sums. */
function totals(held: Held[]): [string, number][] {
  return held
    .filter((row) => row.net_kg > 0)
    .map((row) => [`${row.refrigerant} ${row.kind === "new" ? "new" : "recovered"}`, row.net_kg]);
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
