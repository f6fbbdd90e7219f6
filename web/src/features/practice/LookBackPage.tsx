import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { client, Refused, saidOf, take } from "../../api/client.ts";
import type { Debrief, RunDebrief } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { Shape } from "../../parts/shapes.tsx";
import { Waiting } from "../../parts/Waiting.tsx";
import { useBegin } from "./ExerciseCard.tsx";
import { Questions } from "./Questions.tsx";
import { debriefQuery } from "./queries.ts";
import { Timeline } from "./Timeline.tsx";
import { Verdicts } from "./Verdicts.tsx";

/** A run looked back at: what was done when beside the careful technician, with what each reading meant. */
export default function LookBackPage() {
  const { run = "" } = useParams();
  const { data, error } = useQuery(debriefQuery(run));
  if (error instanceof Refused)
    return (
      <Frame crumb="No such run" practice={null}>
        <main className="p-8">
          <h1>This run is not there</h1>
          <Link to="/practice" className="btn go mt-4">
            To the exercises
          </Link>
        </main>
      </Frame>
    );
  const name = data ? `${data.number ? `${data.number}. ` : ""}${data.name}` : "";
  return (
    <Frame crumb={name} practice={data ? <Tools run={data} /> : null}>
      {data?.debrief ? (
        <Whole debrief={data.debrief} run={data} />
      ) : (
        <main className="p-8">
          <h1>Looking back</h1>
          <p className="text-soft">The careful technician does the same unit, to compare. Some seconds.</p>
          <Waiting rows={4} label="Looking back" />
        </main>
      )}
    </Frame>
  );
}

/** Let the lead see how close it was, or take that back. */
function Share({ run, className }: { run: RunDebrief; className: string }) {
  const queries = useQueryClient();
  const [said, setSaid] = useState("");
  const params = { path: { run: run.code } };
  const share = () =>
    take(client.POST("/api/practice/runs/{run}/share", { params, body: { shared: !run.shared } }))
      .then(() => queries.invalidateQueries(debriefQuery(run.code)))
      .catch((error) => setSaid(saidOf(error)));
  if (!run.debrief) return null;
  return (
    <>
      <button type="button" className={className} aria-pressed={run.shared} onClick={() => void share()}>
        {run.shared ? "Shared with the lead: take back" : "Share with the lead"}
      </button>
      {said && <span className="text-stop">{said}</span>}
    </>
  );
}

function Tools({ run }: { run: RunDebrief }) {
  const { begin, busy } = useBegin();
  return (
    <>
      <Share run={run} className="chip max-md:hidden" />
      {(run.shipped || run.own !== null) && (
        <button
          type="button"
          className="chip"
          disabled={busy}
          onClick={() => begin(run.own === null ? { shipped: run.shipped } : { own: run.own })}
        >
          Try again
        </button>
      )}
      <Link to="/practice" className="chip max-md:hidden">
        Exercises
      </Link>
    </>
  );
}

function Whole({ debrief, run }: { debrief: Debrief; run: RunDebrief }) {
  const { system } = useSession();
  const [at, setAt] = useState(() => firstToShow(debrief));
  const { person } = debrief;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[minmax(0,1fr)_310px]">
      <main className="bg-sheet px-4 py-4 md:overflow-y-auto md:px-6" data-testid="look-back">
        <div className="flex flex-wrap items-start justify-between gap-x-6">
          <div>
            <h1>Look back</h1>
            <p className="text-[15px] text-soft">{debrief.hidden.map((one) => fill(one, system)).join(" ")}</p>
          </div>
          <p
            className={`flex items-center gap-2 text-[21px] font-semibold ${person.met ? "text-holds" : "text-stop"}`}
            data-testid="met"
          >
            <Shape word={person.met ? "Holds" : "Stop"} size={19} />
            {person.met ? "All marks met" : "Not yet"}
          </p>
        </div>
        <Timeline debrief={debrief} at={at} onAt={setAt} />
        <Questions answers={person.answers} />
        <p className="mt-4 md:hidden">
          <Share run={run} className="btn" />
        </p>
      </main>
      <Verdicts debrief={debrief} at={at} />
    </div>
  );
}

/** What is worth looking at first: a reading that was taken too soon, else the last thing that went in or came out, else the end. */
function firstToShow({ person }: Debrief): number {
  const soon = person.moments.find((one) => one.too_soon);
  if (soon) return soon.time_s;
  const moved = [...person.spans].reverse().find((span) => span.what === "in" || span.what === "out");
  return moved?.to_s ?? person.took_s;
}
