import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, take } from "../../api/client.ts";
import { peopleQuery } from "../../api/queries.ts";
import { Field } from "../../parts/Field.tsx";
import { useAsk } from "../../parts/useAsk.ts";
import type { Owned } from "../../parts/useOwner.tsx";

type Facts = { shop: string; shortest_password: number; offline_days: number };

/** The shop itself, for its owner: its name, how short a password may be, how long a device works on by itself, and what was done. */
export function ShopFacts({ shop, owned }: { shop: Facts; owned: Owned }) {
  const queries = useQueryClient();
  const [name, setName] = useState(shop.shop);
  const [shortest, setShortest] = useState(String(shop.shortest_password));
  const { busy, refused, wrong, ask } = useAsk();
  const [days, setDays] = useState(String(shop.offline_days));
  const changed =
    name !== shop.shop || shortest !== String(shop.shortest_password) || days !== String(shop.offline_days);
  const go = () =>
    ask(async () => {
      const body = { name, shortest_password: Number(shortest), offline_days: Number(days) };
      queries.setQueryData(peopleQuery.queryKey, await owned(() => take(client.PATCH("/api/shop", { body }))));
    });
  return (
    <section aria-label="The shop" className="mb-6">
      <h2 className="border-b border-ink pb-1">The shop</h2>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
        className="grid grid-cols-2 gap-x-5"
      >
        <Field label="name, as records show it" value={name} onChange={setName} problem={wrong("name")} />
        <Field
          label="shortest password"
          hint="15 is advised; 8 with a second factor"
          value={shortest}
          onChange={(value) => setShortest(value.replace(/\D/g, ""))}
          problem={wrong("shortest_password")}
        />
        <Field
          label="days a device works on without signal"
          hint="14 is advised; then it asks to sign in"
          value={days}
          onChange={(value) => setDays(value.replace(/\D/g, ""))}
          problem={wrong("offline_days")}
        />
        {refused.text && !["/name", "/shortest_password", "/offline_days"].includes(refused.path) && (
          <p className="note stop col-span-2" role="alert">
            {refused.text}
          </p>
        )}
        {changed && (
          <button type="submit" className="btn go col-span-2 mt-1 justify-self-start" disabled={busy}>
            Keep this
          </button>
        )}
      </form>
      <Link to="/shop/trail" className="btn mt-2">
        Who did what
      </Link>
    </section>
  );
}
