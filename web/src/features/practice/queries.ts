/** What is asked of the server about practice. */
import { queryOptions } from "@tanstack/react-query";
import { client, take } from "../../api/client.ts";
import type { RunState } from "../../api/types.ts";

export const practiceQuery = queryOptions({
  queryKey: ["practice"],
  queryFn: () => take(client.GET("/api/practice")),
});

export const teamQuery = queryOptions({
  queryKey: ["practice", "team"],
  queryFn: () => take(client.GET("/api/practice/team")),
});

const OFTEN_MS = 500;
const SELDOM_MS = 2_000;

/** A run as it stands, asked for as long as it is looked at: that somebody looks keeps its time going. */
export const runQuery = (run: string, look = false) =>
  queryOptions({
    queryKey: ["practice", "run", run, look],
    queryFn: async () => {
      const began = performance.now();
      const state = await take(client.GET("/api/practice/runs/{run}", { params: { path: { run }, query: { look } } }));
      return { ...state, came: (began + performance.now()) / 2 };
    },
    refetchInterval: (query) => (query.state.data?.state === "ended" ? SELDOM_MS : OFTEN_MS),
    refetchIntervalInBackground: false,
    structuralSharing: false,
    placeholderData: (before) => before,
  });

/** A run with when it was so, by `performance.now()`. */
export type Run = RunState & { came: number };

export const debriefQuery = (run: string) =>
  queryOptions({
    queryKey: ["practice", "debrief", run],
    queryFn: () => take(client.GET("/api/practice/runs/{run}/debrief", { params: { path: { run } } })),
    refetchInterval: (query) => (query.state.data?.debrief ? false : 1_000),
  });

export const opinionQuery = (code: string, seq: number, add: string) =>
  queryOptions({
    queryKey: ["opinion", code, seq, add],
    queryFn: () => take(client.GET("/api/jobs/{code}/fits", { params: { path: { code }, query: { add } } })),
    retry: false,
    placeholderData: (before) => before,
  });
