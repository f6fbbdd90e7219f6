import { useEffect, useState } from "react";
import { client, refusalOf, take } from "../api/client.ts";
import { Field } from "../parts/Field.tsx";
import { Door } from "./Door.tsx";

type Whose = { username: string; name: string; shop: string; shortest: number };

/** Where a link from an invitation or for a forgotten password leads: choose one, then sign in. */
export function SetPassword() {
  const [token] = useState(() => window.location.hash.slice(1));
  const [whose, setWhose] = useState<Whose | null>(null);
  const [password, setPassword] = useState("");
  const [refused, setRefused] = useState({ path: "", text: "" });
  const [done, setDone] = useState(false);
  useEffect(() => {
    take(client.POST("/api/password/link", { body: { token } }))
      .then(setWhose)
      .catch((error) => setRefused(refusalOf(error)));
  }, [token]);
  const go = async () => {
    setRefused({ path: "", text: "" });
    try {
      await take(client.POST("/api/password", { body: { token, password } }));
      window.history.replaceState(null, "", "/password"); // a used link is nobody's to see
      setDone(true);
    } catch (error) {
      setRefused(refusalOf(error));
    }
  };
  return (
    <Door onGo={go}>
      {whose && !done && (
        <>
          <p className="mt-4">
            {whose.name}, choose the password you sign in with as <b>{whose.username}</b>.
          </p>
          <p className="text-soft">{whose.shop}</p>
          <input type="hidden" name="username" autoComplete="username" value={whose.username} readOnly />
          <Field
            label="new password"
            type="password"
            autoComplete="new-password"
            hint={`${whose.shortest} characters or more, any you like. Four words are easy to keep in mind.`}
            problem={refused.path === "/password" ? refused.text : undefined}
            value={password}
            onChange={setPassword}
          />
          <button type="submit" className="btn go mt-4 w-full">
            Keep it
          </button>
        </>
      )}
      {refused.text && refused.path !== "/password" && (
        <p className="note stop mt-4" role="alert">
          {refused.text}
        </p>
      )}
      {done && <p className="note mt-4">Your password is kept. Sign in with it.</p>}
      {(done || refused.path === "/token") && (
        <a href="/" className="btn go mt-4 w-full">
          Sign in
        </a>
      )}
    </Door>
  );
}
