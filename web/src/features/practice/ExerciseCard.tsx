import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, newKey, saidOf, take } from "../../api/client.ts";
import type { Card, ExerciseRow } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { lasting, show } from "../../format/quantity.ts";
import { practiceQuery } from "./queries.ts";
import { TakeIn } from "./TakeIn.tsx";

const METERING: Record<string, string> = {
  orifice: "fixed orifice",
  capillary: "capillary tube",
  txv: "expansion valve",
};
const STARTS: Record<string, string> = {
  running: "It runs when you come.",
  off: "It stands when you come; everything in it is as it was.",
  empty: "It is recovered, held and evacuated: a vacuum is in it.",
  open: "It is recovered and mended, and open to the air.",
};
const LEVELS = ["", "one thing wrong, plain to see", "one thing wrong, hard to see", "two things wrong"];

/** An exercise before it is begun: the unit, the weather, what is in the van, what counts. */
export function ExerciseCard({ row }: { row: ExerciseRow }) {
  const { card } = row;
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h1>
          {card.number ? `${card.number}. ` : ""}
          {card.name}
        </h1>
        <p className="text-[14px] text-soft">the unit you will stand in front of</p>
      </div>
      <p className="mt-1 max-w-[640px]">{card.about || card.aim}</p>
      <CardFacts card={card} />
      <Begin row={row} />
    </>
  );
}

/** What stands on the card of an exercise. */
export function CardFacts({ card }: { card: Card }) {
  const { system } = useSession();
  return (
    <>
      <Nameplate card={card} />
      <Line title="Weather">
        <Fact label="outdoors" value={show(card.outdoor_k, "temperature", system)} />
        <Fact label="room" value={show(card.indoor_k, "temperature", system)} />
        <Fact label="wet bulb" value={show(card.wet_bulb_k, "temperature", system)} />
        <Fact label="site" value={/^0(\.0)? ?(m|ft)?$/.test(card.altitude) ? "sea level" : card.altitude} />
        {card.mode === "heating" && <Fact label="mode" value="heating" />}
      </Line>
      <Line title="When you come">
        <p className="col-span-4 text-[15px]">
          {STARTS[card.start]}{" "}
          {card.level > 0 && (
            <span className="text-soft">
              Level {card.level}: {LEVELS[card.level]}; not told until you look back.
            </span>
          )}
        </p>
      </Line>
      <Line title="In the van">
        <Fact
          label="scale"
          value={`reads to ${show(card.scale_step_kg, "mass", system)}, ± ${show(card.scale_limit_kg, "mass", system)}`}
          wide
        />
        <Fact
          label="gauges and clamps"
          value={`± ${show(card.gauge_limit_pa, "gauge_pressure_delta", system)}, ± ${show(card.clamp_limit_k, "temperature_delta", system)}`}
          wide
        />
        {card.cylinders.map((one) => (
          <Fact
            key={one.code}
            wide
            label={one.recovery ? `recovery machine, cylinder ${one.code}` : `cylinder ${one.code}, ${one.refrigerant}`}
            value={
              one.recovery && one.room_kg !== null
                ? `room for ${show(one.room_kg, "mass", system)}`
                : `${show(one.net_kg, "mass", system)} in it, scale ${show(one.gross_kg, "mass", system)}`
            }
          />
        ))}
        <Fact wide label="one instrument reads wrong" value={card.wrong ? "maybe" : "no"} />
      </Line>
      <Counts card={card} />
    </>
  );
}

function Nameplate({ card }: { card: Card }) {
  const { system } = useSession();
  const size = system === "si" ? show(card.capacity_w, "power", system) : `${card.tons} tons`;
  const facts: [string, string][] = [
    ["refrigerant", card.refrigerant],
    ["size", size],
    ["charge, with lines", show(card.charge_kg, "mass", system)],
    ["metering", METERING[card.metering] ?? card.metering],
    ["line set", show(card.line_m, "length", system)],
    [
      "liquid / suction",
      `${show(card.liquid_od_m, "tube_od", system)} and ${show(card.suction_od_m, "tube_od", system)}`,
    ],
  ];
  return (
    <div className="relative mt-3 rounded-[9px] border-[1.5px] border-ink px-7 py-2" data-testid="nameplate">
      {["top-2 left-2", "top-2 right-2", "bottom-2 left-2", "bottom-2 right-2"].map((place) => (
        <span
          key={place}
          aria-hidden="true"
          className={`absolute h-[8px] w-[8px] rounded-full border border-ink ${place}`}
        />
      ))}
      <dl className="grid grid-cols-2 sm:grid-cols-3">
        {facts.map(([label, value]) => (
          <div key={label} className="px-3 py-1">
            <dt className="text-[14px] text-soft">{label}</dt>
            <dd className="num text-[17px]">{value}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

function Line({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section className="grid border-b border-rule py-3 md:grid-cols-[124px_minmax(0,1fr)]">
      <h2 className="pt-1">{title}</h2>
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">{children}</div>
    </section>
  );
}

function Fact({ label, value, wide }: { label: string; value: string; wide?: boolean }) {
  return (
    <p className={`leading-[20px] ${wide ? "col-span-2" : ""}`}>
      <span className="block text-[14px] text-soft">{label}</span>
      <b className="text-[15px]">{value}</b>
    </p>
  );
}

function Counts({ card }: { card: Card }) {
  const { system } = useSession();
  const marks = [
    card.charge_within_kg !== null && `charge within ${show(card.charge_within_kg, "mass", system)}`,
    card.asks.length === 1 && card.asks[0] && fill(card.asks[0], system),
    card.asks.length > 1 && `${card.asks.length} questions right`,
    card.charge_within_kg === null && "the charge left as it is",
    `${lasting(card.settle_s)} before each reading`,
    `under ${show(card.lost_kg, "mass", system)} lost`,
  ].filter(Boolean) as string[];
  return (
    <p className="mt-4 flex flex-wrap items-baseline border-t-2 border-copper pt-3">
      <b className="mr-4">What counts</b>
      {marks.map((mark) => (
        <span key={mark} className="mr-4 border-l border-rule pl-4">
          {mark}
        </span>
      ))}
    </p>
  );
}

function Begin({ row }: { row: ExerciseRow }) {
  const { busy, said, begin } = useBegin();
  const { me } = useSession();
  const query = row.own === null ? `shipped=${row.shipped}` : `own=${row.own}`;
  const from = row.own === null ? { shipped: row.shipped } : { own: row.own };
  return (
    <>
      <div className="mt-4 flex flex-wrap gap-3">
        <button type="button" className="btn go" disabled={busy} onClick={() => begin(from)}>
          Start the clock
        </button>
        <button type="button" className="btn" disabled={busy} onClick={() => begin({ ...from, test: true })}>
          Take it as a test
        </button>
        <Link className="btn" to={`/practice/own?from=${encodeURIComponent(query)}`}>
          Set up my own from it
        </Link>
      </div>
      {said && <p className="mt-2 text-stop">{said}</p>}
      <p className="mt-3 flex flex-wrap items-center gap-x-5 text-[14px] text-soft">
        <span>A test is taken without looking inside.</span>
        {row.last && (
          <Link
            className="inline-flex min-h-[44px] items-center text-copper underline"
            to={`/practice/${row.last.code}/back`}
          >
            Look back at your last
          </Link>
        )}
        {row.own !== null && (
          <Link className="inline-flex min-h-[44px] items-center text-copper underline" to={`/practice/own/${row.own}`}>
            Edit it
          </Link>
        )}
        {row.own !== null && me.role !== "technician" && <PutAway own={row.own} />}
        <a
          className="inline-flex min-h-[44px] items-center text-copper underline"
          href={`/api/practice/file?${query}`}
          download
        >
          Get its file
        </a>
        <TakeIn />
      </p>
      <p className="text-[14px] text-soft">
        Nothing here reaches your jobs, cylinders or records. Your lead sees that you did it, and how close only if you
        share it.
      </p>
    </>
  );
}

/** Take one of the shop's exercises out of the list; runs of it stay. */
function PutAway({ own }: { own: number }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const away = () =>
    void take(
      client.POST("/api/practice/exercises/{exercise_id}/put-away", { params: { path: { exercise_id: own } } }),
    ).then(async () => {
      await navigate("/practice");
      await queries.invalidateQueries(practiceQuery);
    });
  return (
    <button type="button" className="inline-flex min-h-[44px] items-center text-copper underline" onClick={away}>
      Put it away
    </button>
  );
}

type From = { shipped?: string; own?: number | null; text?: string; test?: boolean; seed?: number };

/** Begin a run and stand in front of it, its clock started. */
export function useBegin() {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState("");
  const [key, setKey] = useState(newKey);
  const begin = (from: From) => {
    setBusy(true);
    setSaid("");
    const body = {
      key,
      shipped: from.shipped ?? "",
      own: from.own ?? null,
      text: from.text ?? "",
      test: from.test ?? false,
      seed: from.seed ?? null,
    };
    take(client.POST("/api/practice/runs", { body }))
      .then(async (run) => {
        await take(
          client.POST("/api/practice/runs/{run}/clock", { params: { path: { run: run.code } }, body: { speed: 1 } }),
        );
        void queries.invalidateQueries(practiceQuery);
        await navigate(`/practice/${run.code}`);
      })
      .catch((error) => setSaid(saidOf(error)))
      .finally(() => {
        setBusy(false);
        setKey(newKey());
      });
  };
  return { busy, said, begin };
}
