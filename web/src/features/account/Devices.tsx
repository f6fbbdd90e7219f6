import { useQueryClient } from "@tanstack/react-query";
import { client, take } from "../../api/client.ts";
import { accountQuery } from "../../api/queries.ts";
import { clock } from "../../format/clock.ts";
import { useAsk } from "../../parts/useAsk.ts";
import type { Account } from "./types.ts";

/** Where one is signed in, each to be ended from here. */
export function Devices({ account }: { account: Account }) {
  const queries = useQueryClient();
  const { busy, refused, ask } = useAsk();
  const end = (session: string) =>
    ask(async () => {
      const answer = await take(client.POST("/api/me/sessions/{session}/end", { params: { path: { session } } }));
      queries.setQueryData(accountQuery.queryKey, answer);
    });
  const others = account.sessions.filter((row) => !row.here);
  return (
    <section aria-label="Devices">
      <h2 className="border-b border-ink pb-1">Where you are signed in</h2>
      <ul>
        {account.sessions.map((row) => (
          <li key={row.id} className="flex items-center justify-between gap-4 border-b border-rule py-2">
            <span>
              <b>{row.device || "a device"}</b>
              {row.here && " · this one"}
              <span className="block text-[14px] text-soft">
                since{" "}
                {new Date(row.started_at).toLocaleDateString("en-GB", {
                  day: "numeric",
                  month: "short",
                  year: "numeric",
                })}{" "}
                {clock(row.started_at)}
                {row.address && `, from ${row.address}`}
              </span>
            </span>
            {!row.here && (
              <button type="button" className="btn quiet" disabled={busy} onClick={() => void end(row.id)}>
                Sign out there
              </button>
            )}
          </li>
        ))}
      </ul>
      {others.length > 1 && (
        <button type="button" className="btn mt-3" disabled={busy} onClick={() => void end("others")}>
          Sign out everywhere else
        </button>
      )}
      {refused.text && (
        <p className="note stop mt-2" role="alert">
          {refused.text}
        </p>
      )}
    </section>
  );
}
