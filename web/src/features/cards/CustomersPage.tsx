import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { Field } from "../../parts/Field.tsx";
import { More } from "../../parts/More.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { Waiting } from "../../parts/Waiting.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { AddCard } from "./AddCard.tsx";
import { CardDialog, OneCard } from "./CardDialog.tsx";
import { cardQuery, useCards } from "./cards.ts";

/** Customers with their sites; the card of the one at hand. */
export default function CustomersPage() {
  const { id } = useParams();
  const { me } = useSession();
  const navigate = useNavigate();
  const [search, setSearch] = useState("");
  const [shown, setShown] = useState("use");
  const { rows, loaded, error, more } = useCards("customer", useSettled(search), shown === "archived");
  return (
    <Frame crumb="Customers" place={me.shop}>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[380px_minmax(0,1fr)]">
        <nav
          aria-label="Customers"
          className={`border-rule px-5 py-5 md:overflow-y-auto md:border-r ${id ? "max-md:hidden" : ""}`}
        >
          <div className="flex items-start justify-between gap-3">
            <h1>Customers</h1>
            <AddCard kind="customer" done={(card) => navigate(`/customers/${card.id}`)} />
          </div>
          <Field label="find" hint="a name, a street, whom to ask for" value={search} onChange={setSearch} />
          <Toggle
            label="Customers shown"
            value={shown}
            options={{ use: "In use", archived: "Archived" }}
            onChange={setShown}
          />
          {error && <p className="note mt-3">{error.message}</p>}
          {!loaded && !error && <Waiting rows={5} />}
          {loaded && rows.length === 0 && (
            <p className="mt-4 text-[16px]">
              {search
                ? "No customer is called that."
                : shown === "archived"
                  ? "No customer is archived."
                  : "No customer yet. Add one with whom to ask for; then say at its sites whose they are."}
            </p>
          )}
          <ul className="mt-3">
            {rows.map((row) => (
              <li key={row.id} className="border-t border-rule">
                <Link
                  to={`/customers/${row.id}`}
                  aria-current={String(row.id) === id ? "page" : undefined}
                  className="block min-h-[52px] py-2 hover:bg-tint aria-[current]:bg-tint"
                >
                  <b className="text-[16px]">{row.title}</b>
                  <span className="block text-[14px] text-soft">{row.below}</span>
                </Link>
              </li>
            ))}
          </ul>
          <More more={more} />
        </nav>
        <section
          aria-label="One customer"
          className={`bg-sheet px-5 py-5 md:overflow-y-auto md:px-7 ${id ? "" : "max-md:hidden"}`}
        >
          {id ? <OneCustomer key={id} id={Number(id)} /> : <p className="text-soft">Choose a customer.</p>}
        </section>
      </main>
    </Frame>
  );
}

function OneCustomer({ id }: { id: number }) {
  const { data } = useQuery(cardQuery("customer", id));
  return (
    <div className="max-w-[720px]">
      <Link to="/customers" className="mb-2 inline-flex min-h-[44px] items-center text-copper md:hidden">
        All customers
      </Link>
      <h1>{data?.title}</h1>
      {data && (
        <section aria-label="Sites" className="mt-3 mb-6">
          <div className="flex items-end justify-between gap-3 border-b border-ink pb-1">
            <h2>Sites</h2>
            <AddCard kind="site" parent={{ id, title: data.title }} quiet />
          </div>
          {data.below.length === 0 && (
            <p className="mt-2 text-[15px] text-soft">None yet. Add one, or open a site and say it is theirs.</p>
          )}
          <ul>
            {data.below.map((site) => (
              <li
                key={site.id}
                className="flex min-h-[48px] items-center justify-between gap-3 border-b border-rule text-[16px]"
              >
                <b>{site.title}</b>
                <CardDialog kind="site" id={site.id} label="Edit" about={site.title} />
              </li>
            ))}
          </ul>
        </section>
      )}
      <OneCard kind="customer" id={id} />
    </div>
  );
}
