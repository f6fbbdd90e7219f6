import { useState } from "react";
import { client, Refused, saidOf, take } from "../api/client.ts";
import type { Me } from "../api/types.ts";
import { Field } from "../parts/Field.tsx";
import { Door } from "./Door.tsx";

type Given = { username: string; password: string; code: string };
const begin = (body: Given) => take(client.POST("/api/session", { body }));
const NO_ANSWER = "No answer from the server. Try again when there is signal.";

/** A page kept on the device may have no token yet: the refusal brings one, and it is asked once more. */
async function session(given: Given): Promise<Me> {
  try {
    return await begin(given);
  } catch (error) {
    if (!(error instanceof Refused && error.problem.code === "no_token")) throw error;
    return begin(given);
  }
}

/** Signing in; also over a page whose session ran out, with what was typed kept beneath. */
export function SignIn({ onDone, note }: { onDone: (me: Me) => void; note?: string }) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [asksCode, setAsksCode] = useState(false);
  const [refused, setRefused] = useState("");
  const [told, setTold] = useState("");
  const go = async () => {
    setRefused("");
    try {
      onDone(await session({ username, password, code }));
    } catch (error) {
      if (error instanceof Refused && error.problem.code === "code_needed" && !asksCode) setAsksCode(true);
      else setRefused(saidOf(error, NO_ANSWER));
    }
  };
  const forgotten = async () => {
    setRefused("");
    if (!username) {
      setRefused("Type your name first.");
      return;
    }
    try {
      await take(client.POST("/api/password/forgotten", { body: { username } }));
      setTold("If this account has a mail address, a link is on its way. If not, the owner of the shop gives you one.");
    } catch (error) {
      setRefused(saidOf(error, NO_ANSWER));
    }
  };
  return (
    <Door onGo={go}>
      <p className="mb-6 text-soft">
        How much goes in, from which cylinder, to which mark, and when it is proven right.
      </p>
      {note && <p className="note mb-4">{note}</p>}
      <label className="lab block" htmlFor="username">
        name
      </label>
      <input
        id="username"
        className="control"
        autoComplete="username"
        autoCapitalize="none"
        value={username}
        onChange={(e) => setUsername(e.target.value)}
      />
      <label className="lab mt-4 block" htmlFor="password">
        password
      </label>
      <input
        id="password"
        className="control"
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={(e) => setPassword(e.target.value)}
      />
      {asksCode && (
        <Field
          label="code"
          hint="The one your app shows now, or one from your paper."
          value={code}
          onChange={setCode}
          autoFocus
        />
      )}
      {refused && (
        <p className="note stop mt-4" role="alert">
          {refused}
        </p>
      )}
      {told && (
        <p className="note mt-4" role="status">
          {told}
        </p>
      )}
      <button type="submit" className="btn go mt-6 w-full">
        Sign in
      </button>
      <button type="button" className="btn quiet mt-2 w-full" onClick={() => void forgotten()}>
        I forgot my password
      </button>
    </Door>
  );
}
