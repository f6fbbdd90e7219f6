import { Navigate, useParams } from "react-router";
import { type StepName, stepsOf } from "../../api/fields.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { useJob } from "../../job/context.ts";
import { jobPath, runOf } from "../../job/paths.ts";
import { useAwake } from "../../ui/useAwake.ts";
import { JobColumns } from "./JobColumns.tsx";
import { JobProvider } from "./JobProvider.tsx";
import { LinkNote, SignalBar, WaitsHere } from "./LinkNote.tsx";
import { QuickTotal } from "./QuickTotal.tsx";
import { Strip } from "./Strip.tsx";
import { DiscardedNote, TidyJob } from "./TidyJob.tsx";

export default function JobPage() {
  const { code = "", step } = useParams();
  const { system } = useSession();
  if (runOf(code)) return <Navigate to={jobPath(code, step)} replace />;
  return (
    <JobProvider key={code} code={code} system={system}>
      <OneJob step={step} />
    </JobProvider>
  );
}

/** Steps whose wait is watched: the screen stays on. */
const ON_SHOW = new Set(["pressure_hold", "evacuate"]);

function OneJob({ step }: { step: string | undefined }) {
  const { answer, findings, following } = useJob();
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
  const circuit = (answer.job as { circuit?: { site?: string } }).circuit;
  return (
    <Frame crumb={answer.title} place={circuit?.site}>
      <SignalBar />
      <JobColumns current={current} base={`/job/${answer.code}`} />
      <Strip step={current} />
    </Frame>
  );
}
