import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, newKey, take } from "../../api/client.ts";
import { peopleQuery } from "../../api/queries.ts";
import { Field, Select } from "../../parts/Field.tsx";
import { useAsk } from "../../parts/useAsk.ts";
import type { Owned } from "../../parts/useOwner.tsx";
import { LinkToGive } from "./LinkToGive.tsx";
import { ROLES } from "./OnePerson.tsx";
import type { Role } from "./useRoles.ts";

const EMPTY = { name: "", username: "", mail: "", role: "technician" as Role };
const FIELDS = ["/name", "/username", "/mail", "/role"];

/** Somebody new, by a link they choose their password with. */
export function Invite({ owned }: { owned: Owned }) {
  const queries = useQueryClient();
  const [facts, setFacts] = useState(EMPTY);
  const [made, setMade] = useState<{ name: string; link: string; mail: string } | null>(null);
  const { busy, refused, wrong, ask } = useAsk();
  const go = () =>
    ask(async () => {
      setMade(null);
      const body = { key: newKey(), ...facts };
      const answer = await owned(() => take(client.POST("/api/people", { body })));
      queries.setQueryData(peopleQuery.queryKey, answer);
      setMade({ name: facts.name, link: answer.link, mail: facts.mail });
      setFacts(EMPTY);
    });
  const field = (name: "name" | "username" | "mail", label: string, hint?: string) => (
    <Field
      label={label}
      hint={hint}
      value={facts[name]}
      problem={wrong(name)}
      onChange={(value) => setFacts({ ...facts, [name]: name === "username" ? value.toLowerCase() : value })}
    />
  );
  return (
    <details className="mt-3">
      <summary className="min-h-[44px] cursor-pointer py-3 font-semibold text-copper">Invite somebody</summary>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
        className="grid grid-cols-2 gap-x-5"
      >
        {field("name", "name shown")}
        {field("username", "name for signing in")}
        {field("mail", "mail address", "if there is one")}
        <Select
          label="role"
          value={facts.role}
          options={ROLES}
          problem={wrong("role")}
          onChange={(role) => setFacts({ ...facts, role: role as Role })}
        />
        {refused.text && !FIELDS.includes(refused.path) && (
          <p className="note stop col-span-2" role="alert">
            {refused.text}
          </p>
        )}
        <button type="submit" className="btn go col-span-2 mt-2 justify-self-start" disabled={busy}>
          Make the invitation
        </button>
      </form>
      {made && <LinkToGive {...made} />}
    </details>
  );
}
