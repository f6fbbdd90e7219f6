import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, Refused, take } from "../../api/client.ts";
import { peopleQuery } from "../../api/queries.ts";
import type { Owned } from "../../parts/useOwner.tsx";

export type Role = "technician" | "lead" | "owner";
type Chosen = Record<string, Role>;
const CHOSEN = "yoshi:roles-chosen";

/** Roles chosen and not answered yet: shown as chosen, saved though the page is left at once, asked again after a reload. */
export function useRoles(owned: Owned): {
  chosen: Chosen;
  choose: (username: string, role: Role) => void;
  refused: string;
} {
  const queries = useQueryClient();
  const [refused, setRefused] = useState("");
  const [chosen, setChosen] = useState<Chosen>(() => JSON.parse(sessionStorage.getItem(CHOSEN) ?? "{}"));
  const asked = useRef(new Set<string>());
  useEffect(() => {
    sessionStorage.setItem(CHOSEN, JSON.stringify(chosen));
    for (const [username, role] of Object.entries(chosen)) {
      if (asked.current.has(username)) continue;
      asked.current.add(username);
      const request = { params: { path: { username } }, body: { role }, keepalive: true };
      owned(() => take(client.PATCH("/api/people/{username}", request)))
        .then((rows) => queries.setQueryData(peopleQuery.queryKey, rows))
        .catch((problem) =>
          setRefused(problem instanceof Refused ? problem.message : "No answer from the server. Nothing was changed."),
        )
        .finally(() => {
          asked.current.delete(username);
          setChosen(({ [username]: done, ...others }) =>
            done === undefined || done === role ? others : { ...others, [username]: done },
          );
        });
    }
  }, [chosen, queries, owned]);
  const choose = (username: string, role: Role) => {
    setRefused("");
    setChosen((before) => ({ ...before, [username]: role }));
  };
  return { chosen, choose, refused };
}
