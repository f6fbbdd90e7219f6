import { type ReactNode, useEffect, useRef } from "react";
import { type StepName, stepLabel } from "../../api/fields.ts";
import { useTheme } from "../../app/theme.ts";
import { fill } from "../../format/message.ts";
import { useJob, useStep } from "../../job/context.ts";
import { DRAWS_PARTS } from "../../parts/drawsParts.ts";
import { PartsDrawing } from "../../parts/PartsDrawing.tsx";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { useWide } from "../../ui/useWide.ts";
import { ClaimNote } from "./ClaimNote.tsx";
import { Closing } from "./Closing.tsx";
import { JustSettled } from "./JustSettled.tsx";
import { Reasons, Safety } from "./Reasons.tsx";
import { Saved } from "./Saved.tsx";

/** What every step has around its sheet: name, verdict with reasons, cautions, closing and opening again. */
export function StepFrame({
  step,
  sub,
  done,
  first,
  children,
}: {
  step: StepName;
  sub: string;
  done: string;
  /** The number to act on: a caution stands below what it guards, never in front of it. */
  first?: ReactNode;
  children: ReactNode;
}) {
  const result = useStep(step);
  const { answer, findings, system } = useJob();
  const label = stepLabel(step);
  const heading = useRef<HTMLHeadingElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a step that opens is begun at its heading
  useEffect(() => {
    heading.current?.focus({ preventScroll: true });
    heading.current?.scrollIntoView?.({ block: "start" });
  }, [step]);
  const [theme] = useTheme();
  const wide = useWide();
  /** In glare on a phone the number and the button stand alone; everything else is a press away. */
  const glare = theme === "sunlight" && !wide && first !== undefined;
  const rest = (
    <>
      {answer.kind !== "quick" && <ClaimNote step={step} />}
      <Reasons step={step} />
    </>
  );
  const otherwise = answer.otherwise.find((row) => row.step === step);
  return (
    <section aria-labelledby="step-name">
      <header className="flex items-start justify-between gap-x-6 gap-y-1 max-md:flex-col">
        <div>
          <h1 id="step-name" ref={heading} tabIndex={-1} className="scroll-mt-16 outline-none">
            {label}
          </h1>
          <p className="text-[14px] text-soft">{sub}</p>
          {result.state === "open" && <Saved />}
          <JustSettled />
        </div>
        <div className="shrink-0 md:w-[300px] md:text-right" aria-live="polite">
          <VerdictBadge word={result.verdict.word} step={step} large />
          <p className="text-[14px] text-soft" data-testid="headline">
            {fill(result.verdict.headline, system)}
          </p>
        </div>
      </header>
      {result.state === "changed" && (
        <p className="note mt-3">
          <b>Changed since closing.</b> What this step reads is not what it was closed on. Close it again; the old
          result stays in the record.
        </p>
      )}
      {otherwise && (
        <p className="note mt-3">
          Closed under Yoshi {otherwise.core_version || "of before"}, and shown as it was then. By today's rules it
          would say: {otherwise.word}, {fill(otherwise.headline, system)}
        </p>
      )}
      {DRAWS_PARTS.has(step) && findings.inside && <PartsDrawing inside={findings.inside} across />}
      {first && <div className="mt-4">{first}</div>}
      {glare ? (
        <>
          <Safety step={step} />
          {answer.kind !== "quick" && <Closing step={step} done={done} />}
          <details className="mt-4 border-t border-ink pt-2">
            <summary className="btn w-full">More</summary>
            <div className="mt-4">{children}</div>
            {rest}
          </details>
        </>
      ) : (
        <>
          <Safety step={step} />
          <div className="mt-4">{children}</div>
          {answer.kind !== "quick" && <ClaimNote step={step} />}
          {answer.kind !== "quick" && <Closing step={step} done={done} />}
          <Reasons step={step} />
        </>
      )}
    </section>
  );
}
