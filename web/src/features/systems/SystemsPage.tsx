import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { client, newKey, Refused, take } from "../../api/client.ts";
import { circuitQuery, systemsQuery } from "../../api/queries.ts";
import type { CircuitCard, CircuitState, Word } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { ago, fill, inUnit, show, showAmount } from "../../format/quantity.ts";
import { CsvImport } from "../../parts/CsvImport.tsx";
import { Field, Select } from "../../parts/Field.tsx";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { ChargePicture } from "./ChargePicture.tsx";

const NO_ANSWER = "No answer from the server. Nothing was changed; try again when there is signal.";

/** Sites, machines, circuits; the charge of one as a picture over the years. */
export default function SystemsPage() {
  const { id } = useParams();
  const { me } = useSession();
  const { data, error } = useQuery(systemsQuery);
  const queries = useQueryClient();
  const rows = data?.data ?? [];
  const sites = [...new Set(rows.map((row) => row.site))];
  return (
    <Frame crumb="Systems" place={me.shop}>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[380px_minmax(0,1fr)]">
        <nav
          aria-label="Systems"
          className={`border-rule px-5 py-5 md:overflow-y-auto md:border-r ${id ? "max-md:hidden" : ""}`}
        >
          <div className="flex items-start justify-between gap-3">
            <h1>Systems</h1>
            <CsvImport
              title="Systems from a CSV file"
              columns="site, system, circuit, name, refrigerant, factory_charge, kind, metering, included_length, altitude, serial, oil"
              write={(text) => take(client.POST("/api/systems/import", { body: { key: newKey(), text } }))}
              done={() => void queries.invalidateQueries({ queryKey: ["systems"] })}
            />
          </div>
          {error && <p className="note mt-3">{error.message}</p>}
          {data?.fromDevice && <p className="note mt-3">No network: this is from {ago(data.at, Date.now())}.</p>}
          {data && rows.length === 0 && (
            <p className="mt-4 text-[15px] text-soft">
              No systems yet. A job on a unit not known here makes no system; import a CSV file to begin.
            </p>
          )}
          {sites.map((site) => (
            <section key={site} aria-label={site} className="mt-4">
              <h2 className="border-b border-ink pb-1">{site}</h2>
              <ul>
                {rows
                  .filter((row) => row.site === site)
                  .map((row) => (
                    <CircuitLine key={row.id} row={row} chosen={String(row.id) === id} />
                  ))}
              </ul>
            </section>
          ))}
        </nav>
        <section
          aria-label="One circuit"
          className={`bg-sheet px-5 py-5 md:overflow-y-auto md:px-7 ${id ? "" : "max-md:hidden"}`}
        >
          {id ? (
            <CircuitPage key={id} id={Number(id)} rows={rows} />
          ) : (
            <p className="text-soft">Choose a circuit: its charge over the years, its rate, its jobs.</p>
          )}
        </section>
      </main>
    </Frame>
  );
}

function CircuitLine({ row, chosen }: { row: CircuitCard; chosen: boolean }) {
  const { system } = useSession();
  const { history } = row;
  return (
    <li className="border-b border-rule">
      <Link
        to={`/systems/${row.id}`}
        aria-current={chosen ? "page" : undefined}
        className="block py-2 hover:bg-tint aria-[current]:bg-tint"
      >
        <span className="flex items-baseline justify-between gap-3">
          <b className="text-[16px]">{row.name}</b>
          <VerdictBadge word={history.word} />
        </span>
        <span className="block text-[14px] text-soft">
          {row.code} · {row.refrigerant || "refrigerant?"}
          {history.full ? ` · ${showAmount(history.full, system)}` : ""}
          {history.rate ? ` · loses ${show(history.rate.value, "fraction", system)} a year` : ""}
        </span>
      </Link>
    </li>
  );
}

function CircuitPage({ id, rows }: { id: number; rows: CircuitCard[] }) {
  const { system } = useSession();
  const { data, error } = useQuery(circuitQuery(id));
  if (error) return <p className="note">{error.message}</p>;
  if (!data) return <p className="text-soft">Opening the circuit …</p>;
  const { history } = data;
  const twins = rows.filter((row) => row.system_id === data.system_id);
  return (
    <>
      <Link to="/systems" className="mb-2 inline-flex min-h-[44px] items-center text-copper md:hidden">
        All systems
      </Link>
      <header className="flex flex-wrap items-start justify-between gap-4">
        <div>
          <h1>{data.name}</h1>
          <p className="text-[14px] text-soft">
            {data.system} · {data.code} · {data.refrigerant} · {data.site}
          </p>
        </div>
        <StartJobs circuit={data} twins={twins} />
      </header>
      <p className="mt-3 text-[15px]">
        <VerdictBadge word={history.word} /> {fill(history.message, system)}
      </p>
      <dl className="mt-3 grid grid-cols-2 gap-x-8 gap-y-2 lg:grid-cols-5">
        <Fact label="full charge" value={history.full ? showAmount(history.full, system) : "not known"} />
        <Fact label="put in, less recovered" value={showAmount(history.balance, system)} />
        <Fact
          label="loses a year"
          value={history.rate ? show(history.rate.value, "fraction", system) : "—"}
          note={history.limit ? `limit ${show(history.limit.value, "fraction", system)}` : "no limit applies"}
        />
        <Fact
          label="CO₂ equivalent"
          value={history.co2e ? `${inUnit(history.co2e.value / 1000, "mass", "kg", 1)} t` : "—"}
        />
        <Fact label="next leak check" value={history.next_check ?? "none asked for"} />
      </dl>
      <ChargePicture events={data.events} full={history.full?.value ?? null} system={system} />
      <Events circuit={data} />
      <Jobs circuit={data} />
      <Revisions circuit={data} />
      {data.refrigerant && (
        <p className="mt-3">
          <Link to={`/systems/${data.id}/retrofit`} className="btn">
            Compare other refrigerants
          </Link>
        </p>
      )}
    </>
  );
}

function Fact({ label, value, note }: { label: string; value: string; note?: string }) {
  return (
    <div>
      <dt className="lab">{label}</dt>
      <dd className="num text-[20px]">{value}</dd>
      {note && <dd className="lab">{note}</dd>}
    </div>
  );
}

function Events({ circuit }: { circuit: CircuitState }) {
  const { system } = useSession();
  return (
    <section className="mt-4" aria-label="Every change of the charge">
      <div className="flex items-end justify-between gap-3 border-b border-ink pb-1">
        <h2>Every change of the charge</h2>
        <FromRecords circuit={circuit} />
      </div>
      {circuit.events.length === 0 && (
        <p className="mt-2 text-[15px] text-soft">
          Nothing is booked yet. A circuit met with a charge in it opens with a balance.
        </p>
      )}
      <ul className="text-[15px]">
        {[...circuit.events].reverse().map((event) => (
          <li
            key={`${event.at}${event.kind}${event.kg}`}
            className="grid grid-cols-[100px_110px_minmax(0,1fr)] gap-3 border-b border-rule py-2"
          >
            <span className="text-soft">
              {new Date(event.at).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" })}
            </span>
            <b>
              {event.kind === "added" ? "+ " : "− "}
              {show(event.kg, "mass", system)}
            </b>
            <span>
              {event.refrigerant} {event.kind}, {event.cylinder} <span className="text-soft">{event.by}</span>{" "}
              {event.job && (
                <Link className="text-copper underline" to={`/job/${event.job}`}>
                  job
                </Link>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

type Revision = { revision: number; at: string; by: string; reason: string };

/** What the record of the circuit was made of, last first; a changed refrigerant stands here with its job. */
function Revisions({ circuit }: { circuit: CircuitState }) {
  const rows = circuit.revisions as Revision[];
  if (rows.length < 2) return null;
  return (
    <section className="mt-4" aria-label="The record over time">
      <h2 className="border-b border-ink pb-1">The record over time</h2>
      <ul className="text-[15px]">
        {rows.map((row) => (
          <li
            key={row.revision}
            className="grid grid-cols-[100px_minmax(0,1fr)] gap-3 border-b border-rule py-2 md:grid-cols-[100px_minmax(0,1fr)_160px]"
          >
            <span className="text-soft">
              {new Date(row.at).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" })}
            </span>
            <span>{row.reason}</span>
            <span className="text-soft max-md:col-start-2">{row.by}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function FromRecords({ circuit }: { circuit: CircuitState }) {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const [kind, setKind] = useState<"opening" | "added" | "recovered">("opening");
  const [texts, setTexts] = useState({ mass: "", at: "", reason: "" });
  const [refused, setRefused] = useState({ path: "", text: "" });
  const [key, setKey] = useState(newKey);
  const go = async () => {
    setRefused({ path: "", text: "" });
    try {
      const at = texts.at ? new Date(`${texts.at}T12:00:00`).toISOString() : new Date().toISOString();
      const params = { path: { circuit_id: circuit.id } };
      const body = { key, kind, mass: texts.mass, at, reason: texts.reason };
      const state = await take(client.POST("/api/systems/{circuit_id}/past", { params, body }));
      queries.setQueryData(circuitQuery(circuit.id).queryKey, state);
      await queries.invalidateQueries({ queryKey: ["systems"] });
      setKey(newKey());
      setOpen(false);
    } catch (error) {
      if (error instanceof Refused) setKey(newKey());
      setRefused(
        error instanceof Refused ? { path: error.problem.path, text: error.message } : { path: "", text: NO_ANSWER },
      );
    }
  };
  const wrong = (name: string) => (refused.path === `/${name}` ? refused.text : undefined);
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="From earlier records"
      trigger={
        <button type="button" className="btn quiet">
          Add from earlier records
        </button>
      }
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <Select
          label="what it was"
          value={kind}
          options={{ opening: "opening balance", added: "added", recovered: "recovered" }}
          problem={wrong("kind")}
          onChange={(next) => setKind(next as typeof kind)}
        />
        <Field
          label="how much"
          hint="7 lb 3 oz, 3.2 kg"
          value={texts.mass}
          problem={wrong("mass")}
          onChange={(mass) => setTexts({ ...texts, mass })}
        />
        <Field
          label="on"
          type="date"
          value={texts.at}
          problem={wrong("at")}
          onChange={(at) => setTexts({ ...texts, at })}
        />
        <Field
          label="from which record"
          hint="logbook, invoice, label"
          value={texts.reason}
          problem={wrong("reason")}
          onChange={(reason) => setTexts({ ...texts, reason })}
        />
        {refused.text && !refused.path && (
          <p className="note stop mt-3" role="alert">
            {refused.text}
          </p>
        )}
        <button type="submit" className="btn go mt-4">
          Add it
        </button>
      </form>
    </Dialog>
  );
}

const VISITS: Record<string, string> = {
  going_on: "going on",
  running_not_proven: "running, not proven",
  left_safe: "left safe",
  handed_over: "handed over",
  proven: "proven",
};

function Jobs({ circuit }: { circuit: CircuitState }) {
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
              <span className="text-[13px] text-soft">{ago(job.updated_at, Date.now())}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A job on this circuit, or one for each circuit of the machine under one work order. */
function StartJobs({ circuit, twins }: { circuit: CircuitState; twins: CircuitCard[] }) {
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
      setRefused(error instanceof Refused ? error.message : NO_ANSWER);
    }
  };
  return (
    <div className="flex flex-wrap gap-3">
      <button type="button" className="btn go" onClick={() => void start(false)}>
        New job on it
      </button>
      {twins.length > 1 && (
        <button type="button" className="btn" onClick={() => void start(true)}>
          Work order: all {twins.length} circuits
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
