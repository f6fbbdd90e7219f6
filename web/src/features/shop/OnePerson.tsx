import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api/client.ts";
import { peopleQuery } from "../../api/queries.ts";
import { useAsk } from "../../parts/useAsk.ts";
import type { Owned } from "../../parts/useOwner.tsx";
import { LinkToGive } from "./LinkToGive.tsx";
import type { Role } from "./useRoles.ts";

export const ROLES = { technician: "Technician", lead: "Lead", owner: "Owner" } as const;
const MAY: Record<Role, string> = {
  technician: "their own jobs, cylinders and instruments",
  lead: "all jobs, and hands them on",
  owner: "people and the practice profile too",
};
type Person = {
  username: string;
  name: string;
  role: Role;
  active: boolean;
  invited: boolean;
  mail: string;
  second_factor: boolean;
};

/** One of the shop; for its owner with what can be changed. */
export function OnePerson({
  person,
  owned,
  chosen,
  choose,
}: {
  person: Person;
  owned: Owned | null;
  chosen: Role | undefined;
  choose: (role: Role) => void;
}) {
  const queries = useQueryClient();
  const [link, setLink] = useState("");
  const { busy, refused, ask } = useAsk();
  const { username } = person;
  const path = { username };
  const newLink = () =>
    ask(async () => {
      if (!owned) return;
      const answer = await owned(() => take(client.POST("/api/people/{username}/link", { params: { path } })));
      queries.setQueryData(peopleQuery.queryKey, answer);
      setLink(answer.link);
    });
  const setActive = (active: boolean) =>
    ask(async () => {
      if (!owned) return;
      const request = { params: { path }, body: { active } };
      queries.setQueryData(
        peopleQuery.queryKey,
        await owned(() => take(client.PATCH("/api/people/{username}", request))),
      );
    });
  const state = !person.active
    ? "may not sign in any more"
    : chosen
      ? "saving …"
      : person.invited
        ? "invited, has not signed in yet"
        : MAY[person.role];
  return (
    <li className="border-b border-rule py-2">
      <div className="grid items-center gap-x-4 md:grid-cols-[minmax(0,1fr)_180px]">
        <span>
          <b className={`text-[16px] ${person.active ? "" : "text-soft"}`}>{person.name}</b>{" "}
          <span className="text-[14px] text-soft">
            {username} · {state}
            {person.second_factor && " · second factor"}
          </span>
        </span>
        {owned && person.active ? (
          <select
            className="control"
            aria-label={`role of ${person.name}`}
            value={chosen ?? person.role}
            aria-busy={chosen !== undefined}
            onChange={(event) => choose(event.target.value as Role)}
          >
            {Object.entries(ROLES).map(([key, text]) => (
              <option key={key} value={key}>
                {text}
              </option>
            ))}
          </select>
        ) : (
          <span className="text-[15px]">{person.active ? ROLES[person.role] : "Ended"}</span>
        )}
      </div>
      {owned && (
        <div className="mt-1 flex flex-wrap gap-2">
          {person.active ? (
            <>
              <button type="button" className="btn quiet" disabled={busy} onClick={() => void newLink()}>
                {person.invited ? "New invitation" : "New password by link"}
              </button>
              <button type="button" className="btn quiet" disabled={busy} onClick={() => void setActive(false)}>
                End this account
              </button>
            </>
          ) : (
            <button type="button" className="btn quiet" disabled={busy} onClick={() => void setActive(true)}>
              Take {person.name} back
            </button>
          )}
        </div>
      )}
      {link && <LinkToGive name={person.name} link={link} mail={person.mail} />}
      {refused.text && (
        <p className="note stop" role="alert">
          {refused.text}
        </p>
      )}
    </li>
  );
}
