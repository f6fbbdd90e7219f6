import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useEffect, useMemo, useState, useSyncExternalStore } from "react";
import { client, Refused, take } from "../../api/client.ts";
import { keep } from "../../api/kept.ts";
import { jobQuery } from "../../api/queries.ts";
import type { JobState, Problem, System } from "../../api/types.ts";
import { at, JobContext, type JobView } from "../../job/context.ts";
import { useLive } from "../../job/live.ts";
import { type Draft, Outbox } from "../../outbox/outbox.ts";
import { Shell } from "../../parts/Shell.tsx";
import { useUndo } from "./useUndo.ts";

const PREVIEW_MS = 220;
const IDLE_MS = 1_600;

/** Holds one job: its last answer, what is typed and not yet stored, and what both say together. */
export function JobProvider({ code, system, children }: { code: string; system: System; children: ReactNode }) {
  const queries = useQueryClient();
  const { data: kept, error } = useQuery(jobQuery(code));
  const refresh = useCallback(
    (state: JobState) => {
      queries.setQueryData(jobQuery(code).queryKey, keep(`job:${code}`, state));
    },
    [queries, code],
  );
  const outbox = useMemo(() => new Outbox(code, refresh), [code, refresh]);
  const { drafts, link, since, loaded } = useSyncExternalStore(outbox.subscribe, outbox.snapshot);
  useEffect(() => {
    void outbox.start();
    return () => outbox.stop();
  }, [outbox]);
  useIdleSending(outbox, drafts);
  const { values, following } = useLive(code);
  const undoing = useUndo();
  const preview = usePreview(code, kept?.data.seq ?? 0, drafts, link === "fine" || link === "sending");

  useEffect(() => {
    if (link === "signed_out") void queries.invalidateQueries({ queryKey: ["me"] });
  }, [link, queries]);

  if (error instanceof Refused && error.status === 401) return null;
  if (error) throw error;
  if (!kept || !loaded) return <Shell label="Opening the job" />;
  const answer = kept.data;
  const typing = Object.keys(drafts).length > 0;
  const live = typing && preview ? preview : null;
  const findings = live?.findings ?? answer.findings;
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
    fromDevice: kept.fromDevice || link === "offline",
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
      await outbox.flush();
    },
    refresh: (state) => {
      undoing.take(); // a step was closed or opened: what was typed before it is corrected there, with its reason
      refresh(state);
    },
  };
  return <JobContext value={view}>{children}</JobContext>;
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

function usePreview(code: string, seq: number, drafts: Record<string, Draft>, online: boolean) {
  const stamps = Object.values(drafts)
    .map((draft) => draft.stamp)
    .join();
  const [settled, setSettled] = useState(stamps);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(stamps), PREVIEW_MS);
    return () => clearTimeout(timer);
  }, [stamps]);
  const { data } = useQuery({
    queryKey: ["preview", code, seq, settled],
    queryFn: () => {
      const changes = Object.values(drafts).map(({ path, seen, value, force }) => ({ path, seen, value, force }));
      return take(client.POST("/api/jobs/{code}/preview", { params: { path: { code } }, body: { changes } }));
    },
    enabled: online && stamps !== "" && settled === stamps,
    placeholderData: (before) => before,
    retry: false,
    gcTime: 10_000,
  });
  return data;
}
