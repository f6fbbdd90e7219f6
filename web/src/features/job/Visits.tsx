import { useState } from "react";
import { saidOf } from "../../api/client.ts";
import { factsOf } from "../../api/fields.ts";
import type { Way } from "../../api/types.ts";
import { fill } from "../../format/message.ts";
import { showAmount } from "../../format/quantity.ts";
import { at, useJob } from "../../job/context.ts";
import { WhyNot } from "../../parts/WhyNot.tsx";
import { Dialog } from "../../ui/Dialog.tsx";

type Visit = {
  id: string;
  started_at: string;
  ended_at?: string;
  outcome?: Outcome;
  reason?: string;
  awaited?: string;
  return_on?: string;
};
type Outcome = "proven" | "proven_by_weight" | "proven_running" | "running_not_proven" | "left_safe" | "handed_over";
const OUTCOMES = factsOf("close_out", ["outcome"]).options ?? {};

/** Each way a visit may end, and whether it may now. */
function useWays(): Way[] {
  const { findings } = useJob();
  const picture = findings.steps.find((s) => s.step === "close_out")?.picture;
  if (picture && "ways" in picture) return picture.ways;
  const left = Object.entries(OUTCOMES).filter(([id]) => !id.startsWith("proven"));
  return left.map(([id, label]) => ({
    id,
    label,
    open: true,
    words: { text: label, amounts: {}, words: {} },
    reasoned: true,
  }));
}

function useLastVisit(): Visit | undefined {
  const { answer } = useJob();
  const visits = at(answer.job, "/visits");
  return Array.isArray(visits) ? (visits[visits.length - 1] as Visit) : undefined;
}

/** How the last visit ended, and the way back in. */
export function VisitNote() {
  const { answer, act } = useJob();
  const visit = useLastVisit();
  const [refused, setRefused] = useState("");
  if (!visit?.outcome || answer.closed) return null;
  const start = async () => {
    try {
      await act({ act: "start_visit" });
    } catch (error) {
      setRefused(saidOf(error));
    }
  };
  return (
    <section aria-label="Between visits" className="note mb-4 flex flex-wrap items-center justify-between gap-3">
      <p>
        <b>The last visit ended: {OUTCOMES[visit.outcome]}.</b> {visit.reason}
        {visit.awaited ? ` Awaited: ${visit.awaited}.` : ""}
        {visit.return_on ? ` Back on ${visit.return_on}.` : ""}
      </p>
      <button type="button" className="btn" onClick={() => void start()}>
        Start a new visit
      </button>
      {refused && <p role="alert">{refused}</p>}
    </section>
  );
}

/** Ends the visit with its outcome, in plain words for the customer too. */
export function VisitEnd({ className }: { className: string }) {
  const { answer, findings, act, sendNow, system, link, able } = useJob();
  const cannot = link === "offline" && !able;
  const visit = useLastVisit();
  const [open, setOpen] = useState(false);
  const [outcome, setOutcome] = useState("");
  const [texts, setTexts] = useState({ reason: "", awaited: "", return_on: "" });
  const [refused, setRefused] = useState("");
  const ways = useWays();
  if (!visit || visit.outcome || answer.closed) return null;
  const reasoned = ways.find((way) => way.id === outcome)?.reasoned ?? true;
  const { inside, added, short_again, words } = findings.standing;
  const go = async () => {
    setRefused("");
    try {
      await sendNow();
      await act({ act: "end_visit", outcome, ...texts });
      setOpen(false);
    } catch (error) {
      setRefused(saidOf(error));
    }
  };
  const field = (name: "reason" | "awaited" | "return_on", label: string, placeholder = "") => (
    <div className="mt-3">
      <label className="lab block" htmlFor={`visit-${name}`}>
        {label}
      </label>
      <input
        id={`visit-${name}`}
        className="control"
        type={name === "return_on" ? "date" : "text"}
        placeholder={placeholder}
        value={texts[name]}
        onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
      />
    </div>
  );
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="End this visit"
      trigger={
        <button type="button" className={`btn quiet ${className}`} disabled={cannot}>
          End this visit
          <WhyNot unless={!cannot}>needs signal</WhyNot>
        </button>
      }
    >
      <fieldset>
        <legend className="lab mb-1">It ends as</legend>
        <div className="grid gap-2">
          {ways.map((way) => (
            <label
              key={way.id}
              className={`flex min-h-[44px] items-center gap-3 rounded-[4px] border border-[var(--edge)] px-3 py-1 has-checked:border-copper has-checked:bg-tint ${way.open ? "cursor-pointer" : "text-soft"}`}
            >
              <input
                type="radio"
                name="visit-outcome"
                checked={outcome === way.id}
                disabled={!way.open}
                onChange={() => setOutcome(way.id)}
                className="accent-[var(--copper)]"
                aria-label={way.label}
              />
              <span>
                <b className="block text-[16px]">{way.label}</b>
                {!way.open && <span className="text-[14px]">{fill(way.words, system)}</span>}
              </span>
            </label>
          ))}
        </div>
      </fieldset>
      {reasoned && field("reason", "why it ends this way")}
      {outcome === "running_not_proven" && field("awaited", "what is awaited", "evaporator coil, two weeks")}
      {reasoned && field("return_on", "back on")}
      <dl className="mt-4 grid grid-cols-[150px_1fr] gap-y-1 border-t border-rule pt-3 text-[15px]">
        <dt className="text-soft">in the system</dt>
        <dd>{inside ? showAmount(inside, system) : "not weighed"}</dd>
        {added && (
          <>
            <dt className="text-soft">added here</dt>
            <dd>{showAmount(added, system)}</dd>
          </>
        )}
        {short_again && (
          <>
            <dt className="text-soft">likely short again in</dt>
            <dd>{Math.max(1, Math.round(short_again.value / 86400))} days</dd>
          </>
        )}
      </dl>
      <h2 className="mt-3">For the customer</h2>
      <p className="text-[15px]">{fill(words, system)}</p>
      {refused && (
        <p className="note stop mt-3" role="alert">
          {refused}
        </p>
      )}
      <button type="button" className="btn go mt-4" disabled={!outcome} onClick={() => void go()}>
        End the visit
      </button>{" "}
      <WhyNot unless={outcome !== ""}>Choose how it ends first.</WhyNot>
    </Dialog>
  );
}
