import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { Refused } from "../../api/client.ts";
import { type StepName, stepFacts, stepsOf } from "../../api/fields.ts";
import type { JobState } from "../../api/types.ts";
import { listed } from "../../format/message.ts";
import { useJob, useStep } from "../../job/context.ts";
import { jobPath } from "../../job/paths.ts";
import { Shape } from "../../parts/shapes.tsx";
import { ReasonDialog } from "./ReasonDialog.tsx";
import { StillOpen } from "./StillOpen.tsx";

type Act = "close" | "reopen" | "leave_out";

/** The next step that is still to do. */
function following(state: Pick<JobState, "kind" | "findings">, step: StepName): StepName | undefined {
  const order = stepsOf(state.kind).map((s) => s.id);
  const settled = new Set(
    state.findings.steps.filter((s) => s.state === "closed" || s.state === "not_applicable").map((s) => s.step),
  );
  return order.slice(order.indexOf(step) + 1).find((id) => !settled.has(id));
}

export function Closing({ step, done }: { step: StepName; done: string }) {
  const { answer, findings, act: doIt, sendNow, link, able, asked, system } = useJob();
  const cannot = link === "offline" && !able;
  const result = useStep(step);
  const navigate = useNavigate();
  const [asking, setAsking] = useState<Act | null>(null);
  const [refused, setRefused] = useState("");
  const [busy, setBusy] = useState(false);
  const closed = result.state === "closed" || result.state === "not_applicable";
  const claim = findings.claims.find((c) => c.step === step);
  const unshown = claim?.standing === "not_yet" || claim?.standing === "contradicted";
  const shown = !unshown || claim?.awaits !== "";
  const usable = result.questions.length === 0 && result.problems.length === 0;
  const ready = usable && result.missing.length === 0 && result.verdict.word !== "Open";
  const whole = ready && result.verdict.word === "Holds" && shown;
  const answers = usable && !whole && step !== "close_out";

  const now = useRef({ ready, answers });
  now.current = { ready, answers };
  /** Close as it stands once everything typed is in: what was asked for a moment ago may be there now. */
  const closeIt = async () => {
    setBusy(true);
    try {
      await sendNow();
      await new Promise((settled) => setTimeout(settled));
    } finally {
      setBusy(false);
    }
    if (now.current.ready && now.current.answers) setAsking("close");
    else await act("close", "");
  };

  const act = async (what: Act, reason: string, newRun = false) => {
    setBusy(true);
    setRefused("");
    try {
      await sendNow();
      const state = await doIt(
        what === "reopen" ? { act: what, step, reason, new_run: newRun } : { act: what, step, reason },
      );
      setAsking(null);
      const next = following(state === "asked" ? { kind: answer.kind, findings } : state, step);
      if (what !== "reopen" && next) navigate(jobPath(answer.code, next), { state: { settled: step } });
    } catch (error) {
      setRefused(
        error instanceof Refused
          ? error.message
          : "No answer from the server, and the rules are not on this device. Nothing was closed.",
      );
    } finally {
      setBusy(false);
    }
  };

  const open = listed(
    result.missing.map((m) => m.label),
    system,
  );
  const why = open
    ? `Still needed: ${open}. Why close it all the same?`
    : result.verdict.word === "Holds"
      ? `${claim?.label} is not shown. Why may it stand?`
      : `It says ${result.verdict.word}. Why close it all the same?`;

  return (
    <div className="mt-5 flex flex-wrap items-center gap-3">
      {closed ? (
        <button type="button" className="btn" onClick={() => setAsking("reopen")}>
          Correct this step
        </button>
      ) : (
        <button
          type="button"
          className="btn go"
          disabled={busy || cannot}
          aria-disabled={!ready}
          onClick={() => void closeIt()}
        >
          {ready && !whole && answers ? "Close it all the same" : done}
        </button>
      )}
      {!closed && !ready && answers && (
        <button type="button" className="btn quiet" disabled={cannot} onClick={() => setAsking("close")}>
          Close with a reason
        </button>
      )}
      {!closed && stepFacts(step).must === "" && (
        <button type="button" className="btn quiet" onClick={() => setAsking("leave_out")}>
          Does not apply
        </button>
      )}
      {!ready && result.missing.length > 0 && <StillOpen step={step} />}
      {cannot && !closed && <p className="text-[14px] text-wait">Closing waits for signal.</p>}
      {asked.has(step) && (
        <p className="flex items-center gap-2 text-[15px] font-semibold text-wait">
          <Shape word="Wait" />
          Asked. It stands when the office has it.
        </p>
      )}
      {refused && !asking && (
        <p className="note stop" role="alert">
          {refused}
        </p>
      )}
      <ReasonDialog
        key={asking}
        open={asking !== null}
        title={
          asking === "reopen"
            ? "Why is this step opened again?"
            : asking === "leave_out"
              ? "Why does this step not apply?"
              : why
        }
        again={asking === "reopen"}
        go={asking === "leave_out" ? "It does not apply" : "Close with this reason"}
        usual={asking === "leave_out" ? stepFacts(step).left_out : []}
        busy={busy}
        refused={refused}
        onCancel={() => setAsking(null)}
        onGo={(reason, newRun) => asking && void act(asking, reason, newRun)}
      />
    </div>
  );
}
