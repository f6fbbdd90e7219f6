import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import type { ExerciseRow, Practice } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { clock, day, lasting, show } from "../../format/quantity.ts";
import { Shape } from "../../parts/shapes.tsx";
import { Waiting } from "../../parts/Waiting.tsx";
import { useWide } from "../../ui/useWide.ts";
import { asClock } from "./ClockBar.tsx";
import { ExerciseCard } from "./ExerciseCard.tsx";
import { practiceQuery } from "./queries.ts";
import { Team } from "./Team.tsx";

const ORDER = ["Reading", "Charging", "Looking twice", "Tight and dry", "Taking out", "Another refrigerant"];

const idOf = (row: { shipped: string; own: number | null }): string => row.shipped || String(row.own ?? "");

/** Choose an exercise: what it is about, what unit one will stand in front of, and what counts. */
export default function PracticePage() {
  const { data } = useQuery(practiceQuery);
  const { me } = useSession();
  const [params, setParams] = useSearchParams();
  const wide = useWide();
  const asked = params.get("exercise");
  const rows = data?.exercises ?? [];
  const chosen =
    rows.find((row) => idOf(row) === asked) ?? (wide ? (rows.find((row) => !row.last?.met) ?? rows[0]) : undefined);
  const List = chosen ? "section" : "main";
  const choose = (row: ExerciseRow | null) => setParams(row ? { exercise: idOf(row) } : {}, { replace: wide });
  return (
    <Frame crumb="Choose" practice={null}>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[minmax(0,600px)_minmax(0,1fr)]">
        {(wide || !chosen) && (
          <List
            aria-label="Exercises to choose from"
            className="border-rule px-5 py-4 md:overflow-y-auto md:border-r"
            data-testid="exercises"
          >
            {!data ? <Waiting rows={6} /> : <Listed data={data} chosen={chosen} choose={choose} />}
            {data && me.role !== "technician" && <Team exercises={data.exercises} />}
          </List>
        )}
        {chosen && (
          <main className="bg-sheet px-5 py-5 md:overflow-y-auto md:px-8">
            {!wide && (
              <button type="button" className="btn quiet -ml-2" onClick={() => choose(null)}>
                All exercises
              </button>
            )}
            <ExerciseCard key={idOf(chosen)} row={chosen} />
          </main>
        )}
      </div>
    </Frame>
  );
}

function Listed({
  data,
  chosen,
  choose,
}: {
  data: Practice;
  chosen: ExerciseRow | undefined;
  choose: (row: ExerciseRow) => void;
}) {
  const groups = [...new Set([...ORDER, ...data.exercises.map((row) => row.card.group)])];
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1>Exercises</h1>
        <p className="flex-1 text-[14px] text-soft">{data.exercises.length}, in the order of the work</p>
        <Link to="/practice/own" className="btn quiet">
          Set up my own
        </Link>
      </div>
      {data.going.length > 0 && (
        <section className="mt-2 mb-3" aria-label="Not ended">
          {data.going.map((run) => (
            <Link
              key={run.code}
              to={`/practice/${run.code}`}
              className="mt-2 flex min-h-[48px] items-center justify-between gap-3 border border-copper px-4 py-1"
            >
              <span>
                <b className="block">{run.name}</b>
                <span className="text-[14px] text-soft">
                  {run.state === "going" ? "its time runs" : "paused"}, at {asClock(run.time_s)}
                </span>
              </span>
              <b className="text-copper">Go on</b>
            </Link>
          ))}
        </section>
      )}
      {groups.map((group) => {
        const rows = data.exercises.filter((row) => row.card.group === group);
        if (!rows.length) return null;
        return (
          <section key={group} aria-label={group || "Mine"} className="mt-4">
            <h2 className="border-b-[1.4px] border-ink pb-1 text-soft">{group || "Of the shop"}</h2>
            <ul>
              {rows.map((row) => (
                <OneRow key={idOf(row)} row={row} now={row === chosen} choose={() => choose(row)} />
              ))}
            </ul>
          </section>
        );
      })}
    </>
  );
}

function OneRow({ row, now, choose }: { row: ExerciseRow; now: boolean; choose: () => void }) {
  const { system } = useSession();
  const { card, last } = row;
  return (
    <li className={`border-b border-rule ${now ? "bg-tint shadow-[inset_4px_0_0_var(--copper)]" : ""}`}>
      <button
        type="button"
        onClick={choose}
        aria-current={now ? "true" : undefined}
        className="grid min-h-[54px] w-full grid-cols-[34px_minmax(0,1fr)_auto] items-start gap-x-2 px-2 py-2 text-left leading-[19px] sm:grid-cols-[34px_minmax(0,1fr)_96px_132px]"
      >
        <b className={`num pt-[2px] text-[17px] ${now ? "text-copper" : "text-soft"}`}>{card.number || ""}</b>
        <span className="min-w-0">
          <span className={`block text-[15.5px] font-semibold ${now ? "text-copper" : ""}`}>{card.name}</span>
          <span className="block text-[14px] text-soft">{card.aim}</span>
          {row.given_by && <b className="block text-[14px] text-copper">given to you by {row.given_by}</b>}
        </span>
        <span className="text-right text-[14px]">
          <b className="block">{lasting(card.time_s)}</b>
          <span className="text-soft">
            {card.refrigerant_kg > 0 ? show(card.refrigerant_kg, "mass", system) : "nothing to add"}
          </span>
        </span>
        <span className="text-[14px] max-sm:col-start-2">{last && <HowItWent last={last} />}</span>
      </button>
    </li>
  );
}

function HowItWent({ last }: { last: NonNullable<ExerciseRow["last"]> }) {
  const { system } = useSession();
  const times = last.times === 1 ? "first time" : `${last.times} times`;
  if (last.met) return <Said word="Holds" text={`right, ${times}`} />;
  const off =
    last.off_kg === null ? "" : `${show(Math.abs(last.off_kg), "mass", system)} ${last.off_kg > 0 ? "over" : "under"}`;
  const when = last.ended_at
    ? Date.now() - Date.parse(last.ended_at) < 12 * 3_600_000
      ? clock(last.ended_at)
      : day(last.ended_at)
    : "";
  return (
    <Said word="Wait" text={[Math.abs(last.off_kg ?? 0) > 0.01 ? off : "not yet", when].filter(Boolean).join(", ")} />
  );
}

function Said({ word, text }: { word: "Holds" | "Wait"; text: string }) {
  return (
    <span className={`flex items-start gap-2 ${word === "Holds" ? "text-holds" : "text-wait"}`}>
      <span className="mt-[2px]">
        <Shape word={word} size={15} />
      </span>
      {text}
    </span>
  );
}
