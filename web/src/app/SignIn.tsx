import { useState } from "react";
import { client, Refused, take } from "../api/client.ts";
import type { Me } from "../api/types.ts";

const begin = (username: string, password: string) =>
  take(client.POST("/api/session", { body: { username, password } }));

/** A page kept on the device may have no token yet: the refusal brings one, and it is asked once more. */
async function session(username: string, password: string): Promise<Me> {
  try {
    return await begin(username, password);
  } catch (error) {
    if (!(error instanceof Refused && error.problem.code === "no_token")) throw error;
    return begin(username, password);
  }
}

/** Signing in; also over a page whose session ran out, with what was typed kept beneath. */
export function SignIn({ onDone, note }: { onDone: (me: Me) => void; note?: string }) {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [refused, setRefused] = useState("");
  const go = async () => {
    setRefused("");
    try {
      onDone(await session(username, password));
    } catch (error) {
      setRefused(
        error instanceof Refused ? error.message : "No answer from the server. Try again when there is signal.",
      );
    }
  };
  return (
    <main className="grid min-h-dvh place-items-center bg-sheet p-6">
      <form
        className="w-full max-w-[360px]"
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <h1 className="name">Yoshi</h1>
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
        {refused && (
          <p className="note stop mt-4" role="alert">
            {refused}
          </p>
        )}
        <button type="submit" className="btn go mt-6 w-full">
          Sign in
        </button>
      </form>
    </main>
  );
}
