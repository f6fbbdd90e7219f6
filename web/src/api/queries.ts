import { queryOptions } from "@tanstack/react-query";
import { nowMs } from "../device/time.ts";
import { client, take } from "./client.ts";
import { either } from "./either.ts";
import { asKept, type Kept, kept, keptBefore } from "./kept.ts";
import { whoIsHere } from "./session.ts";
import type { Along, JobState, Me, System } from "./types.ts";

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
      const { listed = "open", sort, ...others } = ask;
      const more = { ...others, ...(sort === "name" && { sort }) };
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

/** The number of a job that was begun on this device and is not at the server yet. */
export const BEGUN_HERE = 0;

export const jobQuery = (code: string) =>
  queryOptions({
    queryKey: ["job", code],
    queryFn: async () => {
      const here = await keptBefore<JobState>(`job:${code}`);
      if (here?.data.seq === BEGUN_HERE) return here; // the server does not know of it yet
      return kept(`job:${code}`, () => take(client.GET("/api/jobs/{code}", { params: { path: { code } } })));
    },
    refetchInterval: 4_000,
    structuralSharing: (before, after) => newer(before as Kept<JobState> | undefined, after as Kept<JobState>),
  });

/** A job as the core takes it, as this device has it; nothing of one it does not have. */
async function jobHere(code: string): Promise<Record<string, unknown>> {
  const here = code ? (await keptBefore<JobState>(`job:${code}`))?.data : undefined;
  if (!here) return {};
  const now = new Date(nowMs()).toISOString();
  return { job: here.job, version: here.document_version, traces: here.traces, by: "", now };
}

export const schoolsQuery = (code: string, seq: number) =>
  queryOptions({
    queryKey: ["schools", code, seq],
    queryFn: () =>
      either(
        () => take(client.GET("/api/jobs/{code}/schools", { params: { path: { code } } })),
        async () => ({ ask: "schools", ...(await jobHere(code)) }),
      ),
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
    queryFn: async () => {
      const ask = () => take(client.GET("/api/systems/{circuit_id}", { params: { path: { circuit_id: id } } }));
      return (await kept(`circuit:${id}`, ask)).data; // read before, it stays readable without signal
    },
  });

export type RetrofitAsk = Record<string, string>;

/** The comparison as the core takes it; null for a circuit this device did not take along. */
async function comparison(id: number, asked: RetrofitAsk) {
  const along = (await keptBefore<Along>("along"))?.data;
  const circuit = along?.circuits.find((one) => one.id === id);
  if (!along || !circuit) return null;
  const plate = (circuit.circuit as { plate?: unknown }).plate ?? {};
  const { units } = (await keptBefore<Me>("me"))?.data ?? { units: "us" };
  return { ask: "compare", plate, profile: along.profile, asked, units };
}

export const retrofitQuery = (id: number, ask: RetrofitAsk) =>
  queryOptions({
    queryKey: ["retrofit", id, ask],
    queryFn: () =>
      either(
        () =>
          take(client.GET("/api/systems/{circuit_id}/retrofit", { params: { path: { circuit_id: id }, query: ask } })),
        () => comparison(id, ask),
      ),
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
      either(
        () => take(client.GET("/api/refrigerants/{name}/chart", { params: { path: { name }, query: { job, units } } })),
        async () => ({ ask: "chart", name, units, ...(await jobHere(job)) }),
      ),
    staleTime: job ? 0 : Number.POSITIVE_INFINITY,
    enabled: name !== "",
  });

export type SaturationAsk = { pressure: string; temperature: string; altitude: string; gauge: string; units: string };

export const saturationQuery = (name: string, ask: SaturationAsk) =>
  queryOptions({
    queryKey: ["saturation", name, ask],
    queryFn: () =>
      either(
        () => take(client.GET("/api/refrigerants/{name}/saturation", { params: { path: { name }, query: ask } })),
        async () => ({ ask: "saturation", name, ...ask }),
      ),
    placeholderData: (before) => (before?.refrigerant === name ? before : undefined),
    staleTime: Number.POSITIVE_INFINITY,
  });
