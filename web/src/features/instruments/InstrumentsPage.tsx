import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { client, saidOf, take } from "../../api/client.ts";
import { jobsQuery, kitQuery } from "../../api/queries.ts";
import type { GatewayRow, InstrumentRow, KitState } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { useNow } from "../../device/useNow.ts";
import { ago, clock, show } from "../../format/quantity.ts";
import { Shape } from "../../parts/shapes.tsx";
import { Scrollable } from "../../ui/Scrollable.tsx";

const DIFFERENCE: Record<string, string> = { gauge_pressure: "gauge_pressure_delta", temperature: "temperature_delta" };

/** Kits of instruments: what posts, how good it is, and on which job it is. */
export default function InstrumentsPage() {
  const { data } = useQuery(kitQuery);
  const [asked] = useSearchParams();
  const kits = data?.gateways ?? [];
  return (
    <Frame crumb="Instruments">
      <main className="min-h-0 flex-1 overflow-y-auto bg-sheet p-5 md:px-8">
        <div className="flex flex-wrap items-start justify-between gap-4">
          <div>
            <h1>Instruments</h1>
            <p className="text-[14px] text-soft">
              Gauges, clamps, scales and probes that send their readings. You can always type instead.
            </p>
          </div>
          <Pairing />
        </div>
        {data && !kits.length && (
          <p className="mt-6 text-[15px]">
            Nothing is paired. Ask for a code, give it to the gateway, and its instruments stand here.
          </p>
        )}
        <ul className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-6">
          {kits.map((kit) => (
            <Kit key={kit.id} kit={kit} wanted={asked.get("job") ?? ""} />
          ))}
        </ul>
      </main>
    </Frame>
  );
}

/** A code to read out, good for ten minutes. */
function Pairing() {
  const [code, setCode] = useState<{ code: string; expires_at: string } | null>(null);
  const [refused, setRefused] = useState("");
  const now = useNow();
  const ask = async () => {
    setRefused("");
    try {
      setCode(await take(client.POST("/api/instruments/pairing-code")));
    } catch (error) {
      setRefused(saidOf(error));
    }
  };
  const good = code && new Date(code.expires_at).getTime() > now;
  return (
    <div className="md:text-right" aria-live="polite">
      {good ? (
        <p data-testid="pairing-code">
          <span className="lab block">give this to the gateway, before {clock(code.expires_at)}</span>
          <span className="num text-[34px] leading-[40px] tracking-[0.12em]">{code.code}</span>
        </p>
      ) : (
        <button type="button" className="btn go" onClick={() => void ask()}>
          Pair a kit
        </button>
      )}
      {refused && (
        <p className="note stop mt-2" role="alert">
          {refused}
        </p>
      )}
    </div>
  );
}

function useKitWrite() {
  const queries = useQueryClient();
  const [refused, setRefused] = useState("");
  const write = async (send: () => Promise<KitState>) => {
    setRefused("");
    try {
      queries.setQueryData(kitQuery.queryKey, await send());
    } catch (error) {
      setRefused(saidOf(error));
    }
  };
  return { write, refused };
}

function Kit({ kit, wanted }: { kit: GatewayRow; wanted: string }) {
  const { write, refused } = useKitWrite();
  const { data } = useQuery(jobsQuery({}));
  const now = useNow(5000);
  const params = { path: { gateway_id: kit.id } };
  const put = (job: string | null) =>
    void write(() => take(client.POST("/api/instruments/gateways/{gateway_id}/job", { params, body: { job } })));
  const jobs = data?.data.jobs ?? [];
  const silent = !kit.seen_at || now - new Date(kit.seen_at).getTime() > 60_000;
  return (
    <li className="border-t-2 border-ink pt-2">
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
        <div>
          <h2 className="text-[17px]">{kit.name}</h2>
          <p className="flex items-center gap-2 text-[14px] text-soft">
            <Shape word={silent ? "Wait" : "Holds"} />
            {kit.seen_at ? `last heard ${ago(kit.seen_at, now)}` : "not heard yet"}, paired by {kit.paired_by}
          </p>
        </div>
        <label className="block min-w-[240px] max-md:w-full">
          <span className="lab">on the job</span>
          <select className="control" value={kit.job} onChange={(event) => put(event.target.value || null)}>
            <option value="">none</option>
            {kit.job && !jobs.some((job) => job.code === kit.job) && <option value={kit.job}>{kit.job_title}</option>}
            {jobs.map((job) => (
              <option key={job.code} value={job.code}>
                {job.title}
              </option>
            ))}
          </select>
        </label>
        {wanted && kit.job !== wanted && (
          <button type="button" className="btn" onClick={() => put(wanted)}>
            Put it on the job I came from
          </button>
        )}
        <button
          type="button"
          className="btn quiet"
          onClick={() =>
            void write(() => take(client.POST("/api/instruments/gateways/{gateway_id}/revoke", { params })))
          }
        >
          Unpair
        </button>
      </div>
      {Math.abs(kit.clock_off_s) > 5 && (
        <p className="note mt-2">
          Its clock is {Math.round(Math.abs(kit.clock_off_s) / 60)} min {kit.clock_off_s > 0 ? "ahead" : "behind"}; the
          times of its readings are set right.
        </p>
      )}
      {kit.refused > 0 && (
        <p className="note mt-2">
          {kit.refused} readings were not taken. Last: {kit.last_refusal}
        </p>
      )}
      {refused && (
        <p className="note stop mt-2" role="alert">
          {refused}
        </p>
      )}
      <Scrollable label={`Instruments of ${kit.name}`}>
        <table className="table mt-2">
          <thead>
            <tr>
              <th>instrument</th>
              <th>reads</th>
              <th>resolution</th>
              <th>accuracy ±</th>
              <th>zero correction</th>
              <th>calibrated</th>
            </tr>
          </thead>
          <tbody>
            {kit.instruments.map((instrument) => (
              <One key={instrument.id} instrument={instrument} />
            ))}
          </tbody>
        </table>
      </Scrollable>
    </li>
  );
}

function One({ instrument }: { instrument: InstrumentRow }) {
  const { system } = useSession();
  const quantity = DIFFERENCE[instrument.quantity] ?? instrument.quantity;
  const said = (value: number) => show(value, quantity, system);
  return (
    <tr>
      <td>{instrument.name}</td>
      <td>{instrument.label}</td>
      <td>{said(instrument.resolution)}</td>
      <td>
        {said(instrument.limit)}
        {instrument.relative > 0 && ` or ${show(instrument.relative, "fraction", system)}`}
      </td>
      <td>{instrument.zero ? said(instrument.zero) : "—"}</td>
      <td>
        <span className="inline-flex items-center gap-2">
          {instrument.calibration_due && <Shape word="Wait" />}
          {instrument.calibrated_on || "not on record"}
          {instrument.calibration_due && instrument.calibrated_on && ", overdue: ± counted double"}
        </span>
      </td>
    </tr>
  );
}
