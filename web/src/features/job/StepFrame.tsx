import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { client, newKey, Refused, take } from "../../api/client.ts";
import { type StepName, stepFacts, stepLabel, stepsOf } from "../../api/fields.ts";
import type { JobState } from "../../api/types.ts";
import { fill } from "../../format/quantity.ts";
import { pathOf, useJob, useStep } from "../../job/context.ts";
import { VerdictBadge } from "../../parts/shapes.tsx";
import { Dialog } from "../../ui/Dialog.tsx";

/** What every step has around its sheet: name, verdict with reasons, cautions, closing and opening again. */
export function StepFrame({
  step,
  sub,
  done,
  children,
}: {
  step: StepName;
  sub: string;
  done: string;
  children: ReactNode;
}) {
  const result = useStep(step);
  const { answer, system } = useJob();
  const label = stepLabel(step);
  return (
    <section aria-labelledby="step-name">
      <header className="flex items-start justify-between gap-x-6 gap-y-1 max-md:flex-col">
        <div>
          <h1 id="step-name">{label}</h1>
          <p className="text-[14px] text-soft">{sub}</p>
        </div>
        <div className="shrink-0 md:w-[300px] md:text-right" aria-live="polite">
          <VerdictBadge word={result.verdict.word} large />
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
      <Safety step={step} />
      <div className="mt-4">{children}</div>
      {answer.kind !== "quick" && <Closing step={step} done={done} />}
      <Reasons step={step} />
    </section>
  );
}

/** What can hurt here, in front of the work until a person of this job has said it is seen; afterwards it stands below. */
function Safety({ step }: { step: StepName }) {
  const { answer, system, type } = useJob();
  const { cautions, state } = useStep(step);
  const fresh = cautions.filter((caution) => !caution.seen);
  if (state !== "open" || answer.kind === "quick" || !fresh.length) return null;
  const base = pathOf(answer.job, step, []).replace(/\/sheet\/?$/, "/answers");
  const see = () => {
    for (const caution of fresh) type(`${base}/safety:${caution.id}`, "seen", { ready: true, force: true });
  };
  return (
    <section aria-label="Safety" className="note mt-3 flex flex-wrap items-center gap-x-5 gap-y-2" data-testid="safety">
      <ul className="grid min-w-[240px] flex-1 gap-1">
        {fresh.map((caution) => (
          <li key={caution.id}>{fill(caution.message, system)}</li>
        ))}
      </ul>
      <button type="button" className="btn" onClick={see}>
        Understood
      </button>
    </section>
  );
}

function Reasons({ step }: { step: StepName }) {
  const { answer, system } = useJob();
  const { verdict, cautions, state } = useStep(step);
  const before = state === "open" && answer.kind !== "quick";
  const standing = before ? cautions.filter((caution) => caution.seen) : cautions;
  const reasons = verdict.reasons;
  return (
    <div className="mt-5 border-t border-rule pt-3 text-[14px]">
      {reasons.length > 0 && (
        <>
          <h2 className="mb-1">Reasons</h2>
          <ul className="mb-3 grid gap-1">
            {reasons.map((reason) => (
              <li key={reason.rule_id + reason.message.text} className="grid grid-cols-[74px_1fr] items-baseline gap-3">
                <VerdictBadge word={reason.word} />
                <span>
                  {fill(reason.message, system)} <span className="text-[13px] text-soft">{reason.source}</span>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {standing.length > 0 && (
        <ul className="grid gap-1 text-[14px]">
          {standing.map((caution) => (
            <li key={caution.id} className="border-l-4 border-[var(--edge)] pl-3">
              {fill(caution.message, system)}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

type Act = "close" | "reopen" | "leave_out";
/** The next step that is still to do. */
function following(state: JobState, step: StepName): StepName | undefined {
  const order = stepsOf(state.kind).map((s) => s.id);
  const settled = new Set(
    state.findings.steps.filter((s) => s.state === "closed" || s.state === "not_applicable").map((s) => s.step),
  );
  return order.slice(order.indexOf(step) + 1).find((id) => !settled.has(id));
}

function Closing({ step, done }: { step: StepName; done: string }) {
  const { answer, refresh, sendNow, link } = useJob();
  const result = useStep(step);
  const navigate = useNavigate();
  const [asking, setAsking] = useState<Act | null>(null);
  const [refused, setRefused] = useState("");
  const [busy, setBusy] = useState(false);
  const closed = result.state === "closed" || result.state === "not_applicable";
  const ready =
    result.verdict.word !== "Open" &&
    result.missing.length === 0 &&
    result.questions.length === 0 &&
    result.problems.length === 0;

  const act = async (what: Act, reason: string, newRun = false) => {
    setBusy(true);
    setRefused("");
    try {
      await sendNow();
      const params = { path: { code: answer.code, step } };
      const body = { key: newKey(), reason };
      const state =
        what === "close"
          ? await take(client.POST("/api/jobs/{code}/steps/{step}/close", { params, body }))
          : what === "leave_out"
            ? await take(client.POST("/api/jobs/{code}/steps/{step}/leave-out", { params, body }))
            : await take(
                client.POST("/api/jobs/{code}/steps/{step}/reopen", { params, body: { ...body, new_run: newRun } }),
              );
      refresh(state);
      setAsking(null);
      const next = following(state, step);
      if (what !== "reopen" && next) navigate(`/job/${answer.code}/${next}`);
    } catch (error) {
      setRefused(
        error instanceof Refused
          ? error.message
          : "No answer from the server. Nothing was closed; try again when there is signal.",
      );
    } finally {
      setBusy(false);
    }
  };

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
          disabled={busy || link === "offline"}
          aria-disabled={!ready}
          onClick={() => (ready && result.verdict.word !== "Holds" ? setAsking("close") : void act("close", ""))}
        >
          {result.verdict.word === "Holds" || !ready ? done : `Close it all the same`}
        </button>
      )}
      {!closed && stepFacts(step).must === "" && (
        <button type="button" className="btn quiet" onClick={() => setAsking("leave_out")}>
          Does not apply
        </button>
      )}
      {!ready && result.missing.length > 0 && (
        <p className="text-[14px] text-soft" data-testid="missing">
          Still open: {result.missing.map((m) => m.label).join(", ")}
        </p>
      )}
      {link === "offline" && !closed && <p className="text-[14px] text-wait">Closing waits for signal.</p>}
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
              : `It says ${result.verdict.word}. Why close it all the same?`
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

function ReasonDialog(props: {
  open: boolean;
  title: string;
  again: boolean;
  go: string;
  usual: string[];
  busy: boolean;
  refused: string;
  onCancel: () => void;
  onGo: (reason: string, newRun: boolean) => void;
}) {
  const [reason, setReason] = useState("");
  return (
    <Dialog open={props.open} onOpenChange={(open) => !open && props.onCancel()} title={props.title}>
      <label className="lab block" htmlFor="reason">
        Reason, kept in the record
      </label>
      <textarea
        id="reason"
        className="control"
        rows={3}
        maxLength={500}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      {props.usual.length > 0 && (
        <p className="mt-2 flex flex-wrap gap-2">
          {props.usual.map((text) => (
            <button key={text} type="button" className="chip" onClick={() => setReason(text)}>
              {text}
            </button>
          ))}
        </p>
      )}
      {props.again && (
        <p className="mt-2 text-[14px] text-soft">
          The figures as closed stay in the record; the correction stands beside them.
        </p>
      )}
      {props.refused && (
        <p className="note stop mt-2" role="alert">
          {props.refused}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-3">
        <button
          type="button"
          className="btn go"
          disabled={!reason.trim() || props.busy}
          onClick={() => props.onGo(reason, false)}
        >
          {props.again ? "Open it again" : props.go}
        </button>
        {props.again && (
          <button
            type="button"
            className="btn"
            disabled={!reason.trim() || props.busy}
            onClick={() => props.onGo(reason, true)}
          >
            Do it over, keep the old run
          </button>
        )}
      </div>
    </Dialog>
  );
}
