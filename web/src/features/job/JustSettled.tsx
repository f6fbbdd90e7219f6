import { useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { saidOf } from "../../api/client.ts";
import { type StepName, stepLabel } from "../../api/fields.ts";
import { useJob } from "../../job/context.ts";
import { jobPath } from "../../job/paths.ts";
import { WhyNot } from "../../parts/WhyNot.tsx";

const WHY = "Undone at once: closed by mistake.";

/** The step that was closed or left out a moment ago, on the one that follows it, with the way back: it is opened again, and the record says so. */
export function JustSettled() {
  const { answer, findings, act, asked, link, able } = useJob();
  const cannot = link === "offline" && !able;
  const navigate = useNavigate();
  const settled = (useLocation().state as { settled?: StepName } | null)?.settled;
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState("");
  const result = findings.steps.find((step) => step.step === settled);
  if (!settled || !result || result.state === "open") return null;
  const back = async () => {
    setBusy(true);
    setRefused("");
    try {
      await act({ act: "reopen", step: settled, reason: WHY, new_run: false });
      navigate(jobPath(answer.code, settled), { replace: true });
    } catch (error) {
      setRefused(saidOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <p className="flex min-h-[44px] flex-wrap items-center gap-x-4 text-[14px] text-soft">
      {stepLabel(settled)} is {asked.has(settled) ? "asked to be " : ""}
      {result.state === "not_applicable" ? "left out" : "closed"}.
      <button
        type="button"
        className="btn quiet"
        disabled={busy || cannot}
        aria-label={`Undo: open ${stepLabel(settled)} again`}
        onClick={() => void back()}
      >
        Undo
      </button>
      <WhyNot unless={!cannot}>needs signal</WhyNot>
      {refused && <span role="alert">{refused}</span>}
    </p>
  );
}
