import { useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { client, newKey, saidOf, take } from "../../api/client.ts";
import { type StepName, stepLabel } from "../../api/fields.ts";
import { useJob } from "../../job/context.ts";
import { WhyNot } from "../../parts/WhyNot.tsx";

const WHY = "Undone at once: closed by mistake.";

/** The step that was closed or left out a moment ago, on the one that follows it, with the way back: it is opened again, and the record says so. */
export function JustSettled() {
  const { answer, findings, refresh, link } = useJob();
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
      const params = { path: { code: answer.code, step: settled } };
      const body = { key: newKey(), reason: WHY, new_run: false };
      refresh(await take(client.POST("/api/jobs/{code}/steps/{step}/reopen", { params, body })));
      navigate(`/job/${answer.code}/${settled}`, { replace: true });
    } catch (error) {
      setRefused(saidOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <p className="flex min-h-[44px] flex-wrap items-center gap-x-4 text-[14px] text-soft">
      {stepLabel(settled)} is {result.state === "not_applicable" ? "left out" : "closed"}.
      <button
        type="button"
        className="btn quiet"
        disabled={busy || link === "offline"}
        aria-label={`Undo: open ${stepLabel(settled)} again`}
        onClick={() => void back()}
      >
        Undo
      </button>
      <WhyNot unless={link !== "offline"}>needs signal</WhyNot>
      {refused && <span role="alert">{refused}</span>}
    </p>
  );
}
