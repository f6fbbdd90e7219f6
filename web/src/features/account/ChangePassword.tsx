import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api/client.ts";
import { accountQuery } from "../../api/queries.ts";
import { Field } from "../../parts/Field.tsx";
import { useAsk } from "../../parts/useAsk.ts";
import { WhyNot } from "../../parts/WhyNot.tsx";
import type { Account } from "./types.ts";

/** Another password; it ends every other session. */
export function ChangePassword({ account }: { account: Account }) {
  const queries = useQueryClient();
  const [facts, setFacts] = useState({ old: "", new: "" });
  const [done, setDone] = useState(false);
  const { busy, refused, wrong, ask } = useAsk();
  const go = () =>
    ask(async () => {
      setDone(false);
      queries.setQueryData(accountQuery.queryKey, await take(client.POST("/api/me/password", { body: facts })));
      setFacts({ old: "", new: "" });
      setDone(true);
    });
  return (
    <section aria-label="Password">
      <h2 className="border-b border-ink pb-1">Password</h2>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
        className="grid gap-x-5 md:grid-cols-2"
      >
        <Field
          label="present password"
          type="password"
          autoComplete="current-password"
          value={facts.old}
          onChange={(old) => setFacts({ ...facts, old })}
          problem={wrong("old")}
        />
        <Field
          label="new password"
          type="password"
          autoComplete="new-password"
          hint={`${account.shortest} characters or more, any you like`}
          value={facts.new}
          onChange={(next) => setFacts({ ...facts, new: next })}
          problem={wrong("new")}
        />
        {refused.text && !["/old", "/new"].includes(refused.path) && (
          <p className="note stop md:col-span-2" role="alert">
            {refused.text}
          </p>
        )}
        {done && (
          <p className="note md:col-span-2" role="status">
            Your password is changed. Everywhere else you are signed out.
          </p>
        )}
        <button
          type="submit"
          className="btn md:col-span-2 mt-1 justify-self-start"
          disabled={busy || !facts.old || !facts.new}
        >
          Change it
        </button>
        <WhyNot unless={facts.old !== "" && facts.new !== ""}>Fill in both passwords first.</WhyNot>
      </form>
    </section>
  );
}
