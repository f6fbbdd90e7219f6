import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { peopleQuery } from "../../api/queries.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { useOwner } from "../../parts/useOwner.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { Invite } from "./Invite.tsx";
import { OnePerson } from "./OnePerson.tsx";
import { ShopFacts } from "./ShopFacts.tsx";
import { useRoles } from "./useRoles.ts";

/** People and roles, what was done, units, and the way to the practice profile. */
export default function ShopPage() {
  const { me, system, setSystem, setClock } = useSession();
  const { data, error } = useQuery(peopleQuery);
  const { owned, dialog } = useOwner();
  const { chosen, choose, refused } = useRoles(owned);
  const owner = me.role === "owner";
  return (
    <Frame crumb="Shop" place={data?.shop ?? me.shop}>
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet px-5 py-5 md:px-7">
        <h1>{data?.shop ?? me.shop}</h1>
        <div className="mt-4 grid gap-x-12 gap-y-6 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
          <section aria-label="People">
            <h2 className="border-b border-ink pb-1">People</h2>
            {error && <p className="note mt-2">{error.message}</p>}
            <ul>
              {(data?.people ?? []).map((person) => (
                <OnePerson
                  key={person.username}
                  person={person}
                  owned={owner ? owned : null}
                  chosen={chosen[person.username]}
                  choose={(role) => choose(person.username, role)}
                />
              ))}
            </ul>
            {refused && (
              <p className="note stop mt-2" role="alert">
                {refused}
              </p>
            )}
            {owner ? (
              <Invite owned={owned} />
            ) : (
              <p className="mt-2 text-[14px] text-soft">The owner invites people and changes what they may do.</p>
            )}
          </section>
          <div>
            {owner && data && (
              <ShopFacts key={`${data.shop}${data.shortest_password}${data.offline_days}`} shop={data} owned={owned} />
            )}
            <section aria-label="Units">
              <h2 className="border-b border-ink pb-1">Units and clock you read by</h2>
              <div className="mt-2 flex items-center gap-4">
                <Toggle
                  label="Units"
                  value={system}
                  options={{ us: "lb oz, °F, psig", si: "kg, °C, bar" }}
                  onChange={(next) => setSystem(next === "si" ? "si" : "us")}
                />
              </div>
              <div className="mt-3 flex items-center gap-4">
                <Toggle
                  label="Clock"
                  value={me.clock}
                  options={{ "24": "17:00", "12": "5:00 pm" }}
                  onChange={(next) => setClock(next === "12" ? "12" : "24")}
                />
              </div>
              <p className="mt-2 text-[14px] text-soft">
                Yours alone; nothing stored changes. A field takes any unit and either clock.
              </p>
            </section>
            <section aria-label="Practice profile" className="mt-6">
              <h2 className="border-b border-ink pb-1">Practice profile</h2>
              <p className="mt-2 text-[15px]">
                Every threshold and every question on which good technicians differ. What a change would do to open jobs
                is shown before it is saved.
              </p>
              <Link to="/profile" className="btn mt-3">
                Open the practice profile
              </Link>
            </section>
          </div>
        </div>
        {dialog}
      </main>
    </Frame>
  );
}
