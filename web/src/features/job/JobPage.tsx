import { Suspense } from "react";
import { Link, Navigate, useParams } from "react-router";
import { type StepName, stepsOf } from "../../api/fields.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { useJob } from "../../job/context.ts";
import { DRAWS_PARTS } from "../../parts/drawsParts.ts";
import { Run } from "../../parts/Run.tsx";
import { Waiting } from "../../parts/Waiting.tsx";
import { useAwake } from "../../ui/useAwake.ts";
import { useWide } from "../../ui/useWide.ts";
import { STEPS } from "../steps/registry.tsx";
import { HandOn } from "./HandOn.tsx";
import { InOrOut } from "./InOrOut.tsx";
import { JobProvider } from "./JobProvider.tsx";
import { LinkNote, SignalBar, WaitsHere } from "./LinkNote.tsx";
import { QuickTotal } from "./QuickTotal.tsx";
import { Schools } from "./Schools.tsx";
import { Strip } from "./Strip.tsx";
import { DiscardedNote, TidyJob } from "./TidyJob.tsx";
import { VisitEnd, VisitNote } from "./Visits.tsx";
import { WhatIsInside } from "./WhatIsInside.tsx";

export default function JobPage() {
  const { code = "", step } = useParams();
  const { system } = useSession();
  return (
    <JobProvider key={code} code={code} system={system}>
      <OneJob step={step} />
    </JobProvider>
  );
}

/** Steps whose wait is watched: the screen stays on. */
const ON_SHOW = new Set(["pressure_hold", "evacuate"]);

/** The other circuits of the same work order. */
function Siblings() {
  const { answer } = useJob();
  if (!answer.siblings.length) return null;
  return (
    <p className="mb-3 text-[14px] text-soft">
      Same work order:{" "}
      {answer.siblings.map((job) => (
        <Link
          key={job.code}
          to={`/job/${job.code}`}
          className="mr-3 inline-flex min-h-[32px] items-center text-copper underline"
        >
          {job.title}
        </Link>
      ))}
    </p>
  );
}

function OneJob({ step }: { step: string | undefined }) {
  const { answer, findings, following, system } = useJob();
  const wide = useWide();
  const waits = findings.steps.find((s) => s.step === step)?.waiting;
  useAwake(following !== null || Boolean(waits && ON_SHOW.has(step ?? "")));
  if (answer.kind === "quick") {
    return (
      <Frame crumb="Quick total">
        <SignalBar />
        <main className="min-h-0 flex-1 overflow-y-auto bg-sheet p-5 md:px-8">
          <LinkNote />
          <DiscardedNote />
          <QuickTotal />
          <WaitsHere />
          <TidyJob className="mt-4" />
        </main>
      </Frame>
    );
  }
  const current = stepsOf(answer.kind).find((s) => s.id === step)?.id as StepName | undefined;
  const open =
    findings.steps.find((s) => s.state === "open" || s.state === "changed") ??
    findings.steps[findings.steps.length - 1];
  if (!current) return <Navigate to={`/job/${answer.code}/${open?.step ?? "identify"}`} replace />;
  const { Sheet, Side } = STEPS[current];
  const sideFirst = !wide && current === "identify";
  const circuit = (answer.job as { circuit?: { site?: string } }).circuit;
  return (
    <Frame crumb={answer.title} place={circuit?.site}>
      <SignalBar />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[210px_minmax(0,1fr)_312px]">
        <div className="border-rule max-md:sticky max-md:top-0 max-md:z-10 max-md:border-b max-md:bg-paper max-md:px-4 md:overflow-y-auto md:border-r md:py-5 md:pl-5">
          <Run
            kind={answer.kind}
            steps={findings.steps}
            current={current}
            system={system}
            base={`/job/${answer.code}`}
          />
          <VisitEnd className="mt-2 max-md:hidden" />
          <HandOn className="mt-2 max-md:hidden" />
          <TidyJob className="mt-2 max-md:hidden" />
          <Schools className="max-md:hidden" />
        </div>
        <main className="bg-sheet px-5 py-5 md:overflow-y-auto md:px-7" key={current}>
          {!wide && <InOrOut className="mb-4 w-full" />}
          <LinkNote />
          <DiscardedNote />
          <VisitNote />
          <Siblings />
          {sideFirst && (
            <div className="mb-5 border-b border-rule pb-4">
              <Suspense fallback={null}>
                <Side />
              </Suspense>
            </div>
          )}
          <Suspense fallback={<Waiting rows={5} />}>
            <Sheet />
          </Suspense>
          <WaitsHere />
          <VisitEnd className="mt-3 md:hidden" />
          <HandOn className="mt-2 md:hidden" />
          <TidyJob className="mt-2 md:hidden" />
          <Schools className="md:hidden" />
        </main>
        {!sideFirst && (
          <aside className="border-rule px-4 py-5 max-md:px-5 md:overflow-y-auto md:border-l" aria-label="Charge tape">
            <WhatIsInside wide={wide} drawn={!DRAWS_PARTS.has(current)} />
            {wide && <InOrOut className="mb-6 w-full" />}
            <Suspense fallback={null}>
              <Side />
            </Suspense>
          </aside>
        )}
      </div>
      <Strip step={current} />
    </Frame>
  );
}
