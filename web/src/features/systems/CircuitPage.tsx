import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { circuitQuery } from "../../api/queries.ts";
import type { CircuitState } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { show, showAmount } from "../../format/quantity.ts";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { Waiting } from "../../parts/Waiting.tsx";
import { CardDialog } from "../cards/CardDialog.tsx";
import { ChargePicture } from "./ChargePicture.tsx";
import { Jobs, StartJobs } from "./CircuitJobs.tsx";
import { FromRecords, Revisions } from "./FromRecords.tsx";

export function CircuitPage({ id }: { id: number }) {
  const { system } = useSession();
  const { data, error } = useQuery(circuitQuery(id));
  if (error) return <p className="note">{error.message}</p>;
  if (!data) return <Waiting rows={6} label="Opening the circuit" />;
  const { history } = data;
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
        {!data.archived && <StartJobs circuit={data} />}
      </header>
      <p className="mt-1 -ml-2 flex flex-wrap">
        <CardDialog kind="circuit" id={data.id} label="Edit circuit" />
        <CardDialog kind="system" id={data.system_id} label="Edit system" />
        <CardDialog kind="site" id={data.site_id} label="Edit site" />
        {data.customer_id && (
          <Link to={`/customers/${data.customer_id}`} className="btn quiet">
            {data.customer}
          </Link>
        )}
      </p>
      {data.archived && <p className="note">This circuit, or what it belongs to, is archived: it stands in no list.</p>}
      <p className="mt-3 text-[15px]">
        <VerdictBadge word={history.word} /> {fill(history.message, system)}
      </p>
      <dl className="mt-3 grid grid-cols-2 gap-x-4 gap-y-2 sm:gap-x-8 lg:grid-cols-5">
        <Fact label="full charge" value={history.full ? showAmount(history.full, system) : "not known"} />
        <Fact label="put in, less recovered" value={showAmount(history.balance, system)} />
        <Fact
          label="loses a year"
          value={history.rate ? show(history.rate.value, "yearly_loss", system) : "—"}
          note={history.limit ? `limit ${show(history.limit.value, "yearly_loss", system)}` : "no limit applies"}
        />
        <Fact label="CO₂ equivalent" value={history.co2e ? showAmount(history.co2e, system) : "—"} />
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
            className="grid grid-cols-[84px_minmax(0,1fr)] gap-x-3 gap-y-1 border-b border-rule py-2 sm:grid-cols-[100px_110px_minmax(0,1fr)]"
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
