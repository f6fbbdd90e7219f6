import { type ReactNode, Suspense } from "react";
import { Link } from "react-router";
import type { StepName } from "../../api/fields.ts";
import { useJob } from "../../job/context.ts";
import { DRAWS_PARTS } from "../../parts/drawsParts.ts";
import { Run } from "../../parts/Run.tsx";
import { Waiting } from "../../parts/Waiting.tsx";
import { useWide } from "../../ui/useWide.ts";
import { STEPS } from "../steps/registry.tsx";
import { HandOn } from "./HandOn.tsx";
import { InOrOut } from "./InOrOut.tsx";
import { LinkNote, WaitsHere } from "./LinkNote.tsx";
import { Schools } from "./Schools.tsx";
import { DiscardedNote, TidyJob } from "./TidyJob.tsx";
import { VisitEnd, VisitNote } from "./Visits.tsx";
import { WhatIsInside } from "./WhatIsInside.tsx";

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

/** The last readings on the practice bench: which made-up units would read so. */
function WhatIf({ className }: { className: string }) {
  const { answer } = useJob();
  return (
    <nav aria-label="On the bench" className={className}>
      <Link to={`/job/${answer.code}/what-if`} className="btn quiet">
        Put it on the bench
      </Link>
    </nav>
  );
}

/** What a practice run has beside the job: under the steps, over the sheet, below it; and what stands in the sheet's place. */
export type Beside = {
  left?: ReactNode;
  over?: ReactNode;
  below?: ReactNode;
  instead?: ReactNode;
  aside?: ReactNode;
};

/** A job at one of its steps: the run of steps, the sheet, and what is inside. */
export function JobColumns({ current, base, beside }: { current: StepName; base: string; beside?: Beside }) {
  const { answer, findings, system } = useJob();
  const wide = useWide();
  const { Sheet, Side } = STEPS[current];
  const sideFirst = !wide && current === "identify";
  const shop = !beside;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[210px_minmax(0,1fr)_312px]">
      <div className="border-rule max-md:sticky max-md:top-0 max-md:z-10 max-md:border-b max-md:bg-paper max-md:px-4 md:overflow-y-auto md:border-r md:py-5 md:pl-5">
        <Run
          kind={answer.kind}
          steps={findings.steps}
          current={beside?.instead ? "" : current}
          system={system}
          base={base}
        />
        {beside?.left && <div className="max-md:hidden">{beside.left}</div>}
        <VisitEnd className="mt-2 max-md:hidden" />
        {shop && (
          <>
            <HandOn className="mt-2 max-md:hidden" />
            <TidyJob className="mt-2 max-md:hidden" />
            <Schools className="max-md:hidden" />
            <WhatIf className="max-md:hidden" />
          </>
        )}
      </div>
      <div className="flex flex-col md:min-h-0 md:overflow-hidden">
        <main
          className="bg-sheet px-5 py-5 md:min-h-0 md:flex-1 md:overflow-y-auto md:px-7"
          key={beside?.instead ? "instead" : current}
        >
          {beside?.over}
          {beside?.instead ?? (
            <>
              {!wide && shop && <InOrOut className="mb-4 w-full" />}
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
              {shop && (
                <>
                  <HandOn className="mt-2 md:hidden" />
                  <TidyJob className="mt-2 md:hidden" />
                  <Schools className="md:hidden" />
                  <WhatIf className="md:hidden" />
                </>
              )}
            </>
          )}
        </main>
        {beside?.below}
      </div>
      {!sideFirst && (
        <aside className="border-rule px-4 py-5 max-md:px-5 md:overflow-y-auto md:border-l" aria-label="Charge tape">
          {beside?.aside ?? (
            <>
              <WhatIsInside wide={wide} drawn={!DRAWS_PARTS.has(current)} />
              {wide && <InOrOut className="mb-6 w-full" />}
              <Suspense fallback={null}>
                <Side />
              </Suspense>
            </>
          )}
        </aside>
      )}
    </div>
  );
}
