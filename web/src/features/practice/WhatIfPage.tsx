import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { Refused, saidOf } from "../../api/client.ts";
import type { Candidate, Opinion } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { show } from "../../format/quantity.ts";
import { useJob } from "../../job/context.ts";
import { Run } from "../../parts/Run.tsx";
import { Waiting } from "../../parts/Waiting.tsx";
import { JobProvider } from "../job/JobProvider.tsx";
import { AddTape } from "./AddTape.tsx";
import { useBegin } from "./ExerciseCard.tsx";
import { opinionQuery } from "./queries.ts";
import { WouldRead } from "./WouldRead.tsx";

const LETTERS = ["A", "B", "C"];
const FITS: Record<string, [number, string]> = {
  well: [4, "fits well"],
  partly: [2, "fits partly"],
  badly: [1, "hardly fits"],
};

/** Put a job's last reading on the bench: which made-up units would read so, and what each would read with more in it. */
export default function WhatIfPage() {
  const { code = "" } = useParams();
  const { system } = useSession();
  return (
    <JobProvider key={code} code={code} system={system}>
      <Page />
    </JobProvider>
  );
}

function Page() {
  const { answer, findings, system } = useJob();
  const [add, setAdd] = useState("");
  const { data, error } = useQuery(opinionQuery(answer.code, answer.seq, add));
  const back = `/job/${answer.code}`;
  return (
    <Frame crumb={answer.title}>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[210px_minmax(0,1fr)_300px]">
        <div className="border-rule max-md:hidden md:overflow-y-auto md:border-r md:py-5 md:pl-5">
          <Run kind={answer.kind} steps={findings.steps} current="" system={system} base={back} />
        </div>
        <main className="bg-sheet px-5 py-5 md:overflow-y-auto md:px-7" data-testid="what-if">
          <div className="flex items-baseline justify-between gap-4">
            <h1>What if</h1>
            <Link to={back} className="btn quiet">
              Back to the job
            </Link>
          </div>
          {error ? (
            <p className="note">
              {error instanceof Refused ? saidOf(error) : "This needs signal: the office works it out."}
            </p>
          ) : data ? (
            <Told opinion={data} />
          ) : (
            <Waiting rows={5} label="Trying units" />
          )}
        </main>
        <aside className="border-rule px-5 py-5 md:overflow-y-auto md:border-l" aria-label="Put in, if I did">
          {data && <AddTape opinion={data} onAdd={setAdd} />}
        </aside>
      </div>
    </Frame>
  );
}

function Told({ opinion }: { opinion: Opinion }) {
  const { system } = useJob();
  const { begin, busy, said } = useBegin();
  const [first] = opinion.candidates;
  return (
    <>
      <p className="text-soft">
        The made-up units that read most like yours, of {opinion.tried} kinds of fault tried. An opinion: the job's
        verdict stays its own.
      </p>
      <ol className="mt-3 border-t-[1.4px] border-ink">
        {opinion.candidates.map((one, n) => (
          <Row key={one.cause} one={one} letter={LETTERS[n] ?? ""} first={n === 0} />
        ))}
      </ol>
      <WouldRead opinion={opinion} />
      <p className="mt-4 border-l-4 border-copper pl-4">{fill(opinion.note, system)}</p>
      {first && (
        <button type="button" className="btn go mt-4" disabled={busy} onClick={() => begin({ text: first.text })}>
          Practise on A
        </button>
      )}
      {said && <p className="mt-2 text-stop">{said}</p>}
      <p className="mt-4 text-[14px] text-soft">
        Blunt: a usual unit of this plate, laid out simply. What it says after an addition was within{" "}
        {show(opinion.blunt_k, "temperature_delta", system)} in 96 of 100 tries on other made-up units; a real one
        differs more.
      </p>
    </>
  );
}

function Row({ one, letter, first }: { one: Candidate; letter: string; first: boolean }) {
  const { system } = useJob();
  const [bars, word] = FITS[one.fit] ?? [0, one.fit];
  const off =
    Math.abs(one.off_kg) < 0.005
      ? "the right charge"
      : `${show(Math.abs(one.off_kg), "mass", system)} ${one.off_kg < 0 ? "short" : "too much"}`;
  return (
    <li className="grid grid-cols-[34px_minmax(0,1fr)] gap-x-2 border-b border-rule py-2 sm:grid-cols-[34px_minmax(0,1fr)_150px_150px]">
      <b className={`text-[19px] ${first ? "text-copper" : ""}`}>{letter}</b>
      <div>
        <p className={`text-[16px] font-semibold first-letter:uppercase ${first ? "text-copper" : ""}`}>{one.label}</p>
        <p className="flex items-center gap-2 text-[14px] text-soft">
          <svg width="66" height="8" aria-hidden="true" className="shrink-0">
            {[0, 1, 2, 3].map((n) => (
              <rect
                key={n}
                x={n * 17 + 0.7}
                y="0.7"
                width="14"
                height="6.6"
                fill={n < bars ? "var(--ink)" : "none"}
                stroke="var(--ink)"
                strokeWidth="1.2"
              />
            ))}
          </svg>
          {word}
          {one.share >= 0.01 && `, likely to ${(one.share * 100).toFixed(0)} %`}
        </p>
      </div>
      <p className="text-[15px] max-sm:col-start-2">
        <b className="block">{show(one.charge_kg, "mass", system)}</b>
        <span className="text-[14px] text-soft">inside, {off}</span>
      </p>
      <p className="text-[15px] max-sm:col-start-2 sm:text-right">
        <b className="block">
          {show(one.superheat_k, "temperature_delta", system)} / {show(one.subcooling_k, "temperature_delta", system)}
        </b>
        <span className="text-[14px] text-soft">superheat / subcooling it reads</span>
      </p>
    </li>
  );
}
