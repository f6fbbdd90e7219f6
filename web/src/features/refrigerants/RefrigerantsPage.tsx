import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { refrigerantsQuery } from "../../api/queries.ts";
import { Frame } from "../../app/Frame.tsx";
import { Glide, OneRefrigerant } from "./OneRefrigerant.tsx";

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
