import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useMemo, useSyncExternalStore } from "react";
import { NoAnswer, newKey, Refused } from "../../api/client.ts";
import { keep } from "../../api/kept.ts";
import { jobQuery } from "../../api/queries.ts";
import type { JobState, Problem, System } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { at, JobContext, type JobView } from "../../job/context.ts";
import { useLive } from "../../job/live.ts";
import { questionOf, tryAct } from "../../job/onDevice.ts";
import type { Act, Draft, Item } from "../../outbox/items.ts";
import { FOR_CHOICE } from "../../outbox/order.ts";
import type { Outbox } from "../../outbox/outbox.ts";
import { outboxOf } from "../../outbox/room.ts";
import { Shell } from "../../parts/Shell.tsx";
import { usePreview } from "./usePreview.ts";
import { useUndo } from "./useUndo.ts";

const IDLE_MS = 1_600;
const CHOOSE = "A field has two answers, or one that was not taken. Choose there first.";

/** Holds one job: its last answer, what is typed and not yet stored, and what both say together. */
export function JobProvider({ code, system, children }: { code: string; system: System; children: ReactNode }) {
  const queries = useQueryClient();
  const { me } = useSession();
  const { data: kept, error } = useQuery(jobQuery(code));
  const refresh = useCallback(
    (state: JobState) => {
      queries.setQueryData(jobQuery(code).queryKey, keep(`job:${code}`, state));
    },
    [queries, code],
  );
  const outbox = useMemo(() => outboxOf(code), [code]);
  const waits = useSyncExternalStore(outbox.subscribe, outbox.snapshot);
  const { drafts, items, held, link, since, loaded } = waits;
  useEffect(() => outbox.tell(refresh), [outbox, refresh]);
  const fromDevice = kept?.fromDevice ?? false;
  useEffect(() => {
    if (!fromDevice) void outbox.flush(); // the server is there again
  }, [outbox, fromDevice]);
  useEffect(() => {
    const disputes = at(kept?.data.job, "/disputes") as { path: string }[] | null;
    if (kept) void outbox.stillHeld(new Set((disputes ?? []).map((one) => one.path)));
  }, [outbox, kept]);
  useIdleSending(outbox, drafts);
  const { values, following } = useLive(code);
  const undoing = useUndo();
  const online = !fromDevice && (link === "fine" || link === "sending");
  const { office, device, able, silent } = usePreview(kept?.data, waits, online);

  useEffect(() => {
    if (link === "signed_out") void queries.invalidateQueries({ queryKey: ["me"] });
  }, [link, queries]);

  if (error instanceof Refused && error.status === 401) return null;
  if (error) throw error;
  if (!kept || !loaded) return <Shell label="Opening the job" />;
  const answer = device ? { ...kept.data, ...partOf(device) } : kept.data;
  const typing = Object.keys(drafts).length > 0;
  const live = device ?? (typing ? office : null);
  const findings = live?.findings ?? answer.findings;
  const act = async (what: Act) => {
    const key = newKey();
    const asker = { by: me.name };
    if (!silent && held.length > 0 && FOR_CHOICE.has(what.act)) throw asRefused(held[0] ?? "", "two_answers", CHOOSE);
    const state = silent && able ? "asked" : await outbox.ask({ kind: "act", act: what }, key);
    if (state !== "asked") {
      undoing.take();
      refresh(state);
      return state;
    }
    await outbox.away(key); // unless the core here would take it
    if (!able) throw new NoAnswer("No answer from the server.");
    const refused = await tryAct(kept.data, outbox.snapshot(), asker, what);
    if (refused) throw asRefused(refused.path, refused.code, fill(refused.message, system));
    await outbox.put({ kind: "act", act: what }, key);
    void outbox.flush();
    return "asked" as const;
  };
  const view: JobView = {
    answer,
    findings,
    system: system === "us" && findings.grams_first ? "grams" : system,
    drafts,
    problems: problemsOf(
      live?.problems ?? [],
      findings.steps.flatMap((s) => s.problems),
      drafts,
    ),
    echoes: live?.echoes ?? {},
    link,
    since,
    live: values,
    following,
    readAt: kept.at,
    fromDevice: fromDevice || link === "offline",
    judgedBy: device ? "device" : "office",
    able,
    items,
    held,
    asked: askedOf(items),
    type: (path, value, options) => {
      undoing.note(path, at(answer.job, path), path in drafts);
      void outbox
        .type(path, value, at(answer.job, path), options)
        .then(() => (options?.ready ? outbox.flush() : undefined));
    },
    commit: (path) => void outbox.commit(path),
    drop: (path) => void outbox.drop(path),
    undo:
      typing || !undoing.last
        ? null
        : () => {
            for (const [path, before] of undoing.take())
              void outbox.type(path, before, at(answer.job, path), { ready: true, force: true });
            void outbox.flush();
          },
    sendNow: async () => {
      await Promise.all(Object.keys(outbox.snapshot().drafts).map((path) => outbox.commit(path)));
      await outbox.now();
    },
    refresh: (state) => {
      undoing.take(); // a step was closed or opened: what was typed before it is corrected there, with its reason
      refresh(state);
    },
    act,
    question: () => questionOf(kept.data, outbox.snapshot(), { by: me.name }),
    again: (key) => void outbox.again(key),
    away: (key) => void outbox.away(key),
  };
  return <JobContext value={view}>{children}</JobContext>;
}

/** Of a judgement here, what takes the place of the server's. */
function partOf({
  job,
  document_version,
  kind,
  title,
  otherwise,
}: Pick<JobState, "job" | "document_version" | "kind" | "title" | "otherwise">) {
  return { job, document_version, kind, title, otherwise };
}

const asRefused = (path: string, code: string, detail: string) =>
  new Refused(422, { type: "about:blank", title: "Refused", status: 422, code, detail, path, params: {} });

/** The steps that wait to be closed or left out. */
function askedOf(items: Item[]): Set<string> {
  const found = new Set<string>();
  for (const { what } of items) {
    if (what.kind !== "act" || !("step" in what.act)) continue;
    if (what.act.act === "reopen") found.delete(what.act.step);
    else found.add(what.act.step);
  }
  return found;
}

function problemsOf(previewed: Problem[], found: Problem[], drafts: Record<string, Draft>): Record<string, Problem> {
  const byPath: Record<string, Problem> = {};
  for (const problem of [...found, ...previewed]) byPath[problem.path] = problem;
  for (const draft of Object.values(drafts)) if (draft.problem) byPath[draft.path] = draft.problem;
  return byPath;
}

/** Somebody who stops typing has said it: the entry is sent without leaving the field. */
function useIdleSending(outbox: Outbox, drafts: Record<string, Draft>): void {
  useEffect(() => {
    const open = Object.values(drafts).filter((draft) => !draft.ready);
    if (!open.length) return;
    const timer = setTimeout(() => {
      for (const draft of open) void outbox.commit(draft.path);
    }, IDLE_MS);
    return () => clearTimeout(timer);
  }, [outbox, drafts]);
}
