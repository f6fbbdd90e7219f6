import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router";
import { client, NoAnswer, Refused, take } from "../../api/client.ts";
import { type StepName, stepsOf } from "../../api/fields.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { practise } from "../../device/practising.ts";
import { useJob } from "../../job/context.ts";
import { Shell } from "../../parts/Shell.tsx";
import { JobColumns } from "../job/JobColumns.tsx";
import { JobProvider } from "../job/JobProvider.tsx";
import { SignalBar } from "../job/LinkNote.tsx";
import { Strip } from "../job/Strip.tsx";
import { Asks } from "./Asks.tsx";
import { AtTheUnit } from "./AtTheUnit.tsx";
import { ClockBar } from "./ClockBar.tsx";
import { Limits } from "./Limits.tsx";
import { InsideAside, LookInside } from "./LookInside.tsx";
import { type Run, runQuery } from "./queries.ts";

const INSIDE = "inside";
/** Where the work of an exercise begins: its plate is read off already. */
const FIRST: Record<string, string[]> = {
  running: ["as_found", "verify"],
  off: ["as_found", "verify"],
  empty: ["weigh_in"],
  open: ["pressure_hold"],
};

/** A run of an exercise: the job's own steps, and the unit somebody stands in front of. */
export default function RunPage() {
  const { run: code = "", step } = useParams();
  const { data, error } = useQuery(runQuery(code, step === INSIDE));
  const here = usePractising(code, data);
  const { system } = useSession();
  const [own] = useState(booksOfItsOwn);
  if (error instanceof Refused) return <Gone />;
  if (data?.state === "ended") return <Navigate to={`/practice/${code}/back`} replace />;
  if (!data || !here) return <Shell label="Opening the bench" />;
  return (
    <QueryClientProvider client={own}>
      <JobProvider key={data.job} code={data.job} system={system}>
        <AtTheBench run={data} step={step} />
      </JobProvider>
    </QueryClientProvider>
  );
}

/** A run has books of its own: what is read of them is never mixed with the shop's. */
const booksOfItsOwn = (): QueryClient =>
  new QueryClient({
    defaultOptions: {
      queries: {
        networkMode: "always",
        retry: (count, error) => !(error instanceof Refused) && !(error instanceof NoAnswer) && count < 2,
      },
    },
  });

/** While this page stands everything is asked of the run, and goes by its clock. True once that is so. */
function usePractising(code: string, run: Run | undefined): boolean {
  const [here, setHere] = useState("");
  useEffect(() => {
    if (!run) return;
    const speed = run.state === "going" ? run.speed : 0;
    practise(code, { ms: Date.parse(run.now), count: run.came, speed });
    setHere(code);
  }, [code, run]);
  useEffect(() => () => practise(null), []);
  return here === code;
}

function AtTheBench({ run, step }: { run: Run; step: string | undefined }) {
  const { answer, findings } = useJob();
  const known = stepsOf(answer.kind).find((one) => one.id === step)?.id as StepName | undefined;
  const open = findings.steps.find((one) => one.state === "open" || one.state === "changed") ?? findings.steps[0];
  const [last, setLast] = useState<StepName>(() => {
    const first = FIRST[run.card.start]?.find((id) => findings.steps.some((one) => one.step === id));
    return (first ?? open?.step ?? "identify") as StepName;
  });
  useEffect(() => {
    if (known) setLast(known);
  }, [known]);
  const looking = step === INSIDE;
  const base = `/practice/${run.code}`;
  if (!known && !looking) return <Navigate to={`${base}/${last}`} replace />;
  const current = known ?? last;
  return (
    <Frame
      crumb={`${run.card.number || ""}${run.card.number ? ". " : ""}${run.card.name}`}
      practice={<ClockBar run={run} />}
    >
      <SignalBar />
      <Asleep run={run} />
      <JobColumns
        current={current}
        base={base}
        beside={{
          left: <Limits run={run} base={base} looking={looking} step={current} />,
          over: looking ? null : <Asks run={run} />,
          instead: looking ? <LookInside run={run} back={`${base}/${current}`} /> : undefined,
          aside: looking ? <InsideAside run={run} /> : undefined,
          below: looking ? null : <AtTheUnit run={run} base={base} step={current} />,
        }}
      />
      <Strip step={current} />
    </Frame>
  );
}

/** Time stands because nobody looked: said, with the way on. */
function Asleep({ run }: { run: Run }) {
  const queries = useQueryClient();
  if (!run.asleep) return null;
  const go = () =>
    void take(
      client.POST("/api/practice/runs/{run}/clock", {
        params: { path: { run: run.code } },
        body: { speed: run.speed },
      }),
    ).then(() => queries.invalidateQueries());
  return (
    <div className="note flex flex-wrap items-center gap-3" role="status">
      <p className="flex-1">Nobody looked for ten minutes, so time stands. Everything is as it was.</p>
      <button type="button" className="btn" onClick={go}>
        Go on
      </button>
    </div>
  );
}

function Gone() {
  const navigate = useNavigate();
  return (
    <Frame crumb="No such run" practice={null}>
      <main className="p-8">
        <h1>This run is not there</h1>
        <p className="mb-4 text-soft">A run is whoever's began it. Choose an exercise and begin one of your own.</p>
        <button type="button" className="btn go" onClick={() => void navigate("/practice")}>
          To the exercises
        </button>
        <Link to="/" className="btn quiet">
          Today
        </Link>
      </main>
    </Frame>
  );
}
