import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, newKey, saidOf, take } from "../../api/client.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import type { Run } from "./queries.ts";

export type Touch = (act: string, what?: string, to?: string) => void;

const SOON_MS = 130;

/** Touching something at the bench: what was asked for and is not done yet, and what was refused, in words. */
export function useTouch(run: Run): { touch: Touch; asked: ReadonlyMap<string, string>; refused: string } {
  const queries = useQueryClient();
  const { system } = useSession();
  const [sent, setSent] = useState<{ key: string; place: string; to: string }[]>([]);
  const [failed, setFailed] = useState("");
  const settled = new Set(run.acts.filter((act) => act.at_s !== null || act.refused).map((act) => act.key));
  const waiting = sent.filter((one) => !settled.has(one.key));
  const last = run.acts.at(-1);
  const mine = last && sent.some((one) => one.key === last.key);
  const touch: Touch = (act, what = "", to = "") => {
    const key = newKey();
    setFailed("");
    setSent((before) => [
      ...before.filter((one) => !settled.has(one.key)).slice(-8),
      { key, place: `${act} ${what}`, to },
    ]);
    const body = { key, do: act, what, to };
    take(client.POST("/api/practice/runs/{run}/acts", { params: { path: { run: run.code } }, body }))
      .then(() =>
        setTimeout(() => void queries.invalidateQueries({ queryKey: ["practice", "run", run.code] }), SOON_MS),
      )
      .catch((error) => {
        setFailed(saidOf(error));
        setSent((before) => before.filter((one) => one.key !== key));
      });
  };
  return {
    touch,
    asked: new Map(waiting.map((one) => [one.place, one.to])),
    refused: failed || (mine && last.refused ? fill(last.refused, system) : ""),
  };
}
