import { queryOptions } from "@tanstack/react-query";
import { client, take } from "./client.ts";
import { asKept, type Kept, kept } from "./kept.ts";
import { whoIsHere } from "./session.ts";
import type { JobState, System } from "./types.ts";

export const meQuery = queryOptions({
  queryKey: ["me"],
  queryFn: whoIsHere,
  staleTime: 60_000,
});

/** Which jobs a list asks for; what is left away is not asked. */
export type JobsAsk = {
  listed?: "open" | "quick" | "closed" | "discarded";
  after?: string;
  search?: string;
  step?: string;
  word?: string;
  whose?: string;
  sort?: "touched" | "name";
};

export const jobsQuery = (ask: JobsAsk) =>
  queryOptions({
    queryKey: ["jobs", ask],
    queryFn: () => {
      const { listed = "open", ...more } = ask;
      const query = Object.fromEntries(Object.entries(more).filter(([, value]) => value));
      const answer = () => take(client.GET("/api/jobs", { params: { query: { listed, ...query } } }));
      return Object.keys(query).length ? answer().then(asKept) : kept(`jobs:${listed}`, answer);
    },
    refetchInterval: 15_000,
    placeholderData: (before) => before,
  });

/** A poll that was asked before a save and answered after it must not bring the old state back. */
const newer = (before: Kept<JobState> | undefined, after: Kept<JobState>) =>
  before && before.data.seq > after.data.seq ? before : after;

export const jobQuery = (code: string) =>
  queryOptions({
    queryKey: ["job", code],
    queryFn: () => kept(`job:${code}`, () => take(client.GET("/api/jobs/{code}", { params: { path: { code } } }))),
    refetchInterval: 4_000,
    structuralSharing: (before, after) => newer(before as Kept<JobState> | undefined, after as Kept<JobState>),
  });

export const schoolsQuery = (code: string, seq: number) =>
  queryOptions({
    queryKey: ["schools", code, seq],
    queryFn: () => take(client.GET("/api/jobs/{code}/schools", { params: { path: { code } } })),
  });

export const historyQuery = (code: string, seq: number) =>
  queryOptions({
    queryKey: ["history", code, seq],
    queryFn: () => take(client.GET("/api/jobs/{code}/history", { params: { path: { code } } })),
  });

export const accountQuery = queryOptions({
  queryKey: ["account"],
  queryFn: () => take(client.GET("/api/me/account")),
});

export const trailQuery = (after: string, search: string) =>
  queryOptions({
    queryKey: ["trail", after, search],
    queryFn: () => take(client.GET("/api/trail", { params: { query: { after, search } } })),
  });

export const profileQuery = queryOptions({
  queryKey: ["profile"],
  queryFn: () => kept("profile", () => take(client.GET("/api/profile"))),
});

export const cylinderQuery = (code: string, before: number | null = null) =>
  queryOptions({
    queryKey: ["cylinder", code, before],
    queryFn: () => take(client.GET("/api/cylinders/{code}", { params: { path: { code }, query: { before } } })),
  });

export const circuitQuery = (id: number) =>
  queryOptions({
    queryKey: ["circuit", id],
    queryFn: () => take(client.GET("/api/systems/{circuit_id}", { params: { path: { circuit_id: id } } })),
  });

export type RetrofitAsk = Record<string, string>;

export const retrofitQuery = (id: number, ask: RetrofitAsk) =>
  queryOptions({
    queryKey: ["retrofit", id, ask],
    queryFn: () =>
      take(client.GET("/api/systems/{circuit_id}/retrofit", { params: { path: { circuit_id: id }, query: ask } })),
    retry: false,
  });

export type DayAsk = {
  leave?: string;
  offset: number;
  skip: string;
  later: string;
  whose: "mine" | "all";
  outside: boolean;
};

export const dayQuery = (ask: DayAsk) =>
  queryOptions({
    queryKey: ["day", ask],
    queryFn: () => take(client.GET("/api/day", { params: { query: ask } })),
    refetchInterval: 20_000,
    placeholderData: (before) => before,
  });

export const logQuery = (code: string) =>
  queryOptions({
    queryKey: ["log", code],
    queryFn: () => take(client.GET("/api/jobs/{code}/log/columns", { params: { path: { code } } })),
    structuralSharing: false,
    refetchOnWindowFocus: false,
  });

export const kitQuery = queryOptions({
  queryKey: ["kit"],
  queryFn: () => take(client.GET("/api/instruments")),
  refetchInterval: 5_000,
});

export const peopleQuery = queryOptions({
  queryKey: ["people"],
  queryFn: () => take(client.GET("/api/people")),
});

export const refrigerantsQuery = queryOptions({
  queryKey: ["refrigerants"],
  queryFn: () => kept("refrigerants", () => take(client.GET("/api/refrigerants"))),
  staleTime: Number.POSITIVE_INFINITY,
});

export const chartQuery = (name: string, units: System, job = "") =>
  queryOptions({
    queryKey: ["chart", name, units, job],
    queryFn: () =>
      take(client.GET("/api/refrigerants/{name}/chart", { params: { path: { name }, query: { job, units } } })),
    staleTime: job ? 0 : Number.POSITIVE_INFINITY,
    enabled: name !== "",
  });

export type SaturationAsk = { pressure: string; temperature: string; altitude: string; gauge: string; units: string };

export const saturationQuery = (name: string, ask: SaturationAsk) =>
  queryOptions({
    queryKey: ["saturation", name, ask],
    queryFn: () => take(client.GET("/api/refrigerants/{name}/saturation", { params: { path: { name }, query: ask } })),
    placeholderData: (before) => (before?.refrigerant === name ? before : undefined),
    staleTime: Number.POSITIVE_INFINITY,
  });
