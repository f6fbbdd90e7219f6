import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api/client.ts";
import { accountQuery } from "../../api/queries.ts";
import { Field } from "../../parts/Field.tsx";
import { useAsk } from "../../parts/useAsk.ts";
import { WhyNot } from "../../parts/WhyNot.tsx";
import type { Account } from "./types.ts";

type Secret = { secret: string; address: string; picture: string };

/** A code from an app beside the password: turned on with the app in hand, off with a code. */
export function SecondFactor({ account }: { account: Account }) {
  const queries = useQueryClient();
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [secret, setSecret] = useState<Secret | null>(null);
  const [paper, setPaper] = useState<string[]>([]);
  const { busy, refused, wrong, ask } = useAsk();
  const fresh = () => queries.invalidateQueries({ queryKey: accountQuery.queryKey });
  const begin = () =>
    ask(async () => {
      setSecret(await take(client.POST("/api/me/second-factor", { body: { password, code: "" } })));
      setPassword("");
    });
  const turnOn = () =>
    ask(async () => {
      const { codes } = await take(client.POST("/api/me/second-factor/on", { body: { code } }));
      setPaper(codes);
      setSecret(null);
      setCode("");
      await fresh();
    });
  const turnOff = () =>
    ask(async () => {
      await take(client.POST("/api/me/second-factor/off", { body: { password, code } }));
      setPassword("");
      setCode("");
      setPaper([]);
      await fresh();
    });
  const passwordField = (
    <Field
      label="your password"
      type="password"
      autoComplete="current-password"
      value={password}
      onChange={setPassword}
      problem={wrong("password")}
    />
  );
  const codeField = (hint: string) => (
    <Field label="code" hint={hint} value={code} onChange={setCode} problem={wrong("code")} />
  );
  const button = (text: string, work: () => Promise<boolean>, ready: boolean) => (
    <p className="mt-1 flex flex-wrap gap-3 md:col-span-2">
      <button type="button" className="btn" disabled={busy || !ready} onClick={() => void work()}>
        {text}
      </button>
      <WhyNot unless={ready}>Fill in your password first.</WhyNot>
    </p>
  );
  return (
    <section aria-label="Second factor" className="mt-6">
      <h2 className="border-b border-ink pb-1">Second factor</h2>
      {paper.length > 0 && (
        <div className="note mt-2">
          <p>
            Write these down: each signs you in once when the phone is gone. They are not shown again, and whoever has
            them and your password is in.
          </p>
          <ul className="mt-2 grid grid-cols-2 gap-x-6 font-mono">
            {paper.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </div>
      )}
      {account.second_factor ? (
        <>
          <p className="mt-2">
            On: signing in asks for a code of your app. {account.paper_left} of the codes on paper are left.
          </p>
          <div className="grid gap-x-5 md:grid-cols-2">
            {passwordField}
            {codeField("from the app or from paper")}
            {button("Turn it off", turnOff, password !== "" && code !== "")}
          </div>
        </>
      ) : secret ? (
        <div className="mt-2">
          <p>Take this into an app that shows codes by the clock, then enter the code it shows.</p>
          <img
            className="my-3 bg-white"
            width={200}
            height={200}
            alt="The secret, to be scanned by the app"
            src={secret.picture}
          />
          <p className="break-all font-mono text-[14px]">{secret.secret}</p>
          <div className="grid gap-x-5 md:grid-cols-2">
            {codeField("six digits")}
            {button("Turn it on", turnOn, code !== "")}
          </div>
        </div>
      ) : (
        <>
          <p className="mt-2 text-[15px]">
            Signing in then takes a code from your phone too, so a stolen password is not enough. The password may then
            be as short as eight characters.
          </p>
          <div className="grid gap-x-5 md:grid-cols-2">
            {passwordField}
            {button("Set it up", begin, password !== "")}
          </div>
        </>
      )}
      {refused.text && !["/password", "/code"].includes(refused.path) && (
        <p className="note stop mt-2" role="alert">
          {refused.text}
        </p>
      )}
    </section>
  );
}
