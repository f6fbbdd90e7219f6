import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import type uPlot from "uplot";
import { client, NoAnswer, take } from "../../api/client.ts";
import { logQuery } from "../../api/queries.ts";
import { NotDone, reportOf, type Task } from "../../api/tasks.ts";
import type { LogColumns } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { clock } from "../../format/quantity.ts";
import { jobPath, runOf } from "../../job/paths.ts";
import { outboxOf } from "../../outbox/room.ts";
import { CsvImport } from "../../parts/CsvImport.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { LongLog, turn } from "./LongLog.tsx";
import { drawn, quantitiesOf } from "./series.ts";

const NAMES: Record<string, string> = {
  gauge_pressure: "Pressures",
  temperature: "Temperatures",
  micron: "Vacuum",
  mass: "Scale",
};
const WAYS = [
  ["earlier", "Earlier"],
  ["later", "Later"],
  ["closer", "Closer"],
  ["wider", "Wider"],
  ["whole", "All of it"],
] as const;

/** Every reading of a job against the clock, and the same as a file. */
export default function LogPage() {
  const { code = "" } = useParams();
  const queries = useQueryClient();
  const { data, error } = useQuery(logQuery(code));
  const write = async (text: string, far: (task: Task) => void) => {
    const begun = take(client.POST("/api/jobs/{code}/log", { params: { path: { code } }, body: { text } }));
    await begun.catch(async (error: unknown) => {
      if (!(error instanceof NoAnswer)) return;
      await outboxOf(code).put({ kind: "file", name: "A log", text });
      throw new NotDone(
        "No signal: the log is kept on this device and goes out by itself. You need not take it again.",
      );
    });
    return reportOf(begun, far);
  };
  return (
    <Frame crumb={data?.title ?? "Log"} place="Log" practice={runOf(code) ? null : undefined}>
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet px-5 py-5 md:px-7">
        <div className="flex flex-wrap items-start justify-between gap-4">
          <div>
            <h1>The whole log</h1>
            <Link to={jobPath(code)} className="inline-flex min-h-[44px] items-center text-copper underline">
              Back to the job
            </Link>
          </div>
          <div className="flex flex-wrap gap-3">
            <a className="btn" href={`/api/jobs/${code}/log`} download>
              Save as CSV
            </a>
            <CsvImport
              title="A log from a file"
              columns="instrument, value, unit, at"
              write={write}
              done={() => void queries.invalidateQueries({ queryKey: ["log", code] })}
            />
          </div>
        </div>
        {error && <p className="note mt-3">{error.message}</p>}
        {data && data.channels.length === 0 && (
          <p className="mt-6 text-soft">
            No instrument has posted for this job yet. Put a kit on it under Instruments, or take a log from a file.
          </p>
        )}
        {data && data.channels.length > 0 && <Drawn log={data} />}
      </main>
    </Frame>
  );
}

function Drawn({ log }: { log: LogColumns }) {
  const { system } = useSession();
  const offered = quantitiesOf(log);
  const [chosen, choose] = useState(offered[0] ?? "");
  const quantity = offered.includes(chosen) ? chosen : (offered[0] ?? "");
  const plot = useRef<uPlot | null>(null);
  const shown = useMemo(() => drawn(log, quantity, system), [log, quantity, system]);
  const moments = shown.data[0];
  const [first, last] = [moments[0] ?? 0, moments[moments.length - 1] ?? 0].map((second) =>
    clock(new Date(second * 1000).toISOString()),
  );
  const about = `${shown.rows.toLocaleString("en")} readings of ${shown.labels.join(", ")} from ${first} to ${last}, in ${shown.unit}`;
  return (
    <>
      <div className="mt-3 flex flex-wrap items-end justify-between gap-4">
        <Toggle
          label="What is drawn"
          value={quantity}
          options={Object.fromEntries(offered.map((name) => [name, NAMES[name] ?? name]))}
          onChange={choose}
        />
        <div className="flex flex-wrap gap-2">
          {WAYS.map(([way, text]) => (
            <button key={way} type="button" className="chip" onClick={() => turn(plot.current, way)}>
              {text}
            </button>
          ))}
        </div>
      </div>
      <p className="mt-2 mb-3 text-[14px] text-soft">{about}. Drag to move along, Ctrl and the wheel to come closer.</p>
      <LongLog drawn={shown} logarithmic={quantity === "micron"} label={about} plot={plot} />
    </>
  );
}
