import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Refused, take } from "../../api/client.ts";
import type { ProfileState } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { useOwner } from "../../parts/useOwner.tsx";
import { WhyNot } from "../../parts/WhyNot.tsx";
import type { Line } from "./History.tsx";
import { RULES, withUnit } from "./rules.ts";

/** A new revision: what was changed, why, and the server's answer. */
export function Revise(props: {
  profile: ProfileState;
  texts: Record<string, string>;
  schools: Record<string, string>;
  changed: number;
}) {
  const { profile, texts, schools, changed } = props;
  const { system } = useSession();
  const cache = useQueryClient();
  const { owned, dialog } = useOwner();
  const [reason, setReason] = useState("");
  const [refused, setRefused] = useState("");
  const [effect, setEffect] = useState<{ code: string; title: string; changes: string[] }[] | null>(null);
  const typed = Object.fromEntries(
    Object.entries(texts).map(([id, text]) => [id, withUnit(text, RULES[id]?.quantity ?? "", system)]),
  );
  const look = async () => {
    setRefused("");
    try {
      setEffect(await take(client.POST("/api/profile/effect", { body: { overrides: typed, choices: schools } })));
    } catch (error) {
      setRefused(error instanceof Refused ? error.message : "No answer from the server. Nothing was changed.");
    }
  };
  const go = async () => {
    setRefused("");
    const latest = (profile.history as Line[])[0]?.revision ?? 0;
    try {
      await owned(() =>
        take(
          client.PUT("/api/profile", {
            body: {
              seen_revision: latest,
              name: profile.name,
              overrides: typed,
              choices: schools,
              reason,
            },
          }),
        ),
      );
      await cache.invalidateQueries({ queryKey: ["profile"] });
    } catch (error) {
      setRefused(error instanceof Refused ? error.message : "No answer from the server. Nothing was changed.");
    }
  };
  return (
    <div className="sticky -bottom-5 mt-5 border-t-2 border-copper bg-sheet pt-4 pb-6">
      <label className="lab block" htmlFor="why-profile">
        why {changed === 1 ? "this is" : `these ${changed} are`} changed; records show it
      </label>
      <input
        id="why-profile"
        className="control"
        maxLength={300}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      {refused && (
        <p className="note stop mt-3" role="alert">
          {refused}
        </p>
      )}
      {effect && <Effect rows={effect} />}
      {dialog}
      <p className="mt-3 flex flex-wrap gap-3">
        <button type="button" className="btn" onClick={() => void look()}>
          What it would change in open jobs
        </button>
        <button type="button" className="btn go" disabled={!reason.trim()} onClick={() => void go()}>
          Make it our practice
        </button>
        <WhyNot unless={reason.trim() !== ""}>Say why first; it is kept with the revision.</WhyNot>
      </p>
    </div>
  );
}

/** What open jobs would say differently; they keep the profile they were begun with until somebody switches them. */
function Effect({ rows }: { rows: { code: string; title: string; changes: string[] }[] }) {
  return (
    <div
      className="mt-3 max-h-[40vh] overflow-y-auto border-l-4 border-[var(--edge)] pl-3 text-[14px]"
      aria-live="polite"
    >
      {rows.length === 0 ? (
        <p>No open job would say anything else.</p>
      ) : (
        <>
          <p>
            <b>{rows.length === 1 ? "One open job" : `${rows.length} open jobs`} would say something else</b>, if
            switched to it; until then each keeps the profile it was begun with.
          </p>
          <ul>
            {rows.map((row) => (
              <li key={row.code} className="mt-1">
                <b>{row.title}</b>
                {row.changes.map((text) => (
                  <span key={text} className="block">
                    {text}
                  </span>
                ))}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
