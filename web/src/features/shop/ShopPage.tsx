import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, newKey, Refused, take } from "../../api/client.ts";
import { peopleQuery } from "../../api/queries.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { Field, Select } from "../../parts/Field.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { type Role, useRoles } from "./useRoles.ts";

const ROLES = { technician: "Technician", lead: "Lead", owner: "Owner" } as const;
const MAY: Record<Role, string> = {
  technician: "jobs and cylinders",
  lead: "the practice profile too",
  owner: "people and roles too",
};

/** People and roles, units, and the way to the practice profile. */
export default function ShopPage() {
  const { me, system, setSystem } = useSession();
  const { data, error } = useQuery(peopleQuery);
  const { chosen, choose, refused } = useRoles();
  const owner = me.role === "owner";
  return (
    <Frame crumb="Shop" place={me.shop}>
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet px-5 py-5 md:px-7">
        <h1>{me.shop}</h1>
        <div className="mt-4 grid gap-x-12 gap-y-6 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
          <section aria-label="People">
            <h2 className="border-b border-ink pb-1">People</h2>
            {error && <p className="note mt-2">{error.message}</p>}
            <ul>
              {(data ?? []).map((person) => (
                <li
                  key={person.username}
                  className="grid items-center gap-x-4 border-b border-rule py-2 md:grid-cols-[minmax(0,1fr)_180px]"
                >
                  <span>
                    <b className="text-[16px]">{person.name}</b>{" "}
                    <span className="text-[14px] text-soft">
                      {person.username} · {person.username in chosen ? "saving …" : MAY[person.role]}
                    </span>
                  </span>
                  {owner ? (
                    <select
                      className="control"
                      aria-label={`role of ${person.name}`}
                      value={chosen[person.username] ?? person.role}
                      aria-busy={person.username in chosen}
                      onChange={(event) => choose(person.username, event.target.value as Role)}
                    >
                      {Object.entries(ROLES).map(([key, text]) => (
                        <option key={key} value={key}>
                          {text}
                        </option>
                      ))}
                    </select>
                  ) : (
                    <span className="text-[15px]">{ROLES[person.role]}</span>
                  )}
                </li>
              ))}
            </ul>
            {refused && (
              <p className="note stop mt-2" role="alert">
                {refused}
              </p>
            )}
            {owner ? <AddPerson /> : <p className="mt-2 text-[14px] text-soft">The owner changes people and roles.</p>}
          </section>
          <div>
            <section aria-label="Units">
              <h2 className="border-b border-ink pb-1">Units you read in</h2>
              <div className="mt-2 flex items-center gap-4">
                <Toggle
                  label="Units"
                  value={system}
                  options={{ us: "lb oz, °F, psig", si: "kg, °C, bar" }}
                  onChange={(next) => setSystem(next === "si" ? "si" : "us")}
                />
              </div>
              <p className="mt-2 text-[14px] text-soft">
                Yours alone; nothing stored changes. A field takes any unit you type.
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
      </main>
    </Frame>
  );
}

function AddPerson() {
  const queries = useQueryClient();
  const [facts, setFacts] = useState({ name: "", username: "", password: "", role: "technician" as Role });
  const [refused, setRefused] = useState({ path: "", text: "" });
  const go = async () => {
    setRefused({ path: "", text: "" });
    try {
      const rows = await take(client.POST("/api/people", { body: { key: newKey(), ...facts } }));
      queries.setQueryData(peopleQuery.queryKey, rows);
      setFacts({ name: "", username: "", password: "", role: "technician" });
    } catch (error) {
      setRefused(
        error instanceof Refused
          ? { path: error.problem.path, text: error.message }
          : { path: "", text: "No answer from the server. Nobody was added; try again." },
      );
    }
  };
  const wrong = (name: string) => (refused.path === `/${name}` ? refused.text : undefined);
  return (
    <details className="mt-3">
      <summary className="min-h-[44px] cursor-pointer py-3 font-semibold text-copper">Add somebody</summary>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
        className="grid grid-cols-2 gap-x-5"
      >
        <Field
          label="name shown"
          value={facts.name}
          problem={wrong("name")}
          onChange={(name) => setFacts({ ...facts, name })}
        />
        <Field
          label="name for signing in"
          value={facts.username}
          problem={wrong("username")}
          onChange={(username) => setFacts({ ...facts, username: username.toLowerCase() })}
        />
        <Field
          label="first password"
          type="password"
          hint="12 characters or more"
          value={facts.password}
          problem={wrong("password")}
          onChange={(password) => setFacts({ ...facts, password })}
        />
        <Select
          label="role"
          value={facts.role}
          options={ROLES}
          problem={wrong("role")}
          onChange={(role) => setFacts({ ...facts, role: role as Role })}
        />
        {refused.text && !["/name", "/username", "/password", "/role"].includes(refused.path) && (
          <p className="note stop col-span-2" role="alert">
            {refused.text}
          </p>
        )}
        <button type="submit" className="btn go col-span-2 mt-2 justify-self-start">
          Add them
        </button>
      </form>
    </details>
  );
}
