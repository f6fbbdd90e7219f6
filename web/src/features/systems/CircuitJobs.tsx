import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, newKey, saidOf, take } from "../../api/client.ts";
import type { CircuitState, Word } from "../../api/types.ts";
import { nowMs } from "../../device/time.ts";
import { ago } from "../../format/quantity.ts";
import { VerdictBadge } from "../../parts/shapes.tsx";

const VISITS: Record<string, string> = {
  going_on: "going on",
  running_not_proven: "running, not proven",
  left_safe: "left safe",
  handed_over: "handed over",
  proven: "proven",
};

export function Jobs({ circuit }: { circuit: CircuitState }) {
  if (!circuit.jobs.length) return null;
  return (
    <section className="mt-4" aria-label="Jobs on it">
      <h2 className="border-b border-ink pb-1">Jobs on it</h2>
      <ul>
        {circuit.jobs.map((job) => (
          <li key={job.code} className="border-b border-rule">
            <Link
              to={`/job/${job.code}`}
              className="grid min-h-[44px] items-center gap-x-4 py-1 hover:bg-tint md:grid-cols-[minmax(0,1fr)_100px_160px_110px]"
            >
              <b>{job.title}</b>
              <VerdictBadge word={job.word as Word} />
              <span className="text-[14px] text-soft">{job.closed ? "closed" : (VISITS[job.visit] ?? "")}</span>
              <span className="text-[14px] text-soft">{ago(job.updated_at, nowMs())}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A job on this circuit, or one for each circuit of the machine under one work order. */
export function StartJobs({ circuit }: { circuit: CircuitState }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [refused, setRefused] = useState("");
  const start = async (all: boolean) => {
    setRefused("");
    try {
      const body = { key: newKey(), kind: "service" as const };
      const state = all
        ? await take(client.POST("/api/jobs/work-order", { body: { ...body, system_id: circuit.system_id } }))
        : await take(client.POST("/api/jobs", { body: { ...body, title: "", circuit_id: circuit.id } }));
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      navigate(`/job/${state.code}/identify`);
    } catch (error) {
      setRefused(saidOf(error));
    }
  };
  return (
    <div className="flex flex-wrap gap-3">
      <button type="button" className="btn go" onClick={() => void start(false)}>
        New job on it
      </button>
      {circuit.in_system > 1 && (
        <button type="button" className="btn" onClick={() => void start(true)}>
          Work order: all {circuit.in_system} circuits
        </button>
      )}
      {refused && (
        <p className="note stop w-full" role="alert">
          {refused}
        </p>
      )}
    </div>
  );
}
