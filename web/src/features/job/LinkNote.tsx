import { useEffect, useRef, useState } from "react";
import { shownWord, stepLabel } from "../../api/fields.ts";
import type { Findings } from "../../api/types.ts";
import { nowMs } from "../../device/time.ts";
import { useEngine } from "../../engine/useEngine.ts";
import { ago, clock } from "../../format/quantity.ts";
import { useJob } from "../../job/context.ts";
import { SignalMark } from "../../parts/SignalMark.tsx";
import { TwoAnswers } from "./TwoAnswers.tsx";
import { SetAsideActs, useWaits, WaitsToGo } from "./WaitsToGo.tsx";

/** Under the page's head: where the judging is done while there is no signal, and that it is back. */
export function SignalBar() {
  const { link, fromDevice, sendNow } = useJob();
  const waits = useWaits().length;
  const none = link === "offline" || fromDevice;
  const back = useBack(none, waits);
  if (none)
    return (
      <div className="no-signal flex flex-wrap items-center gap-3 border-b border-rule px-4 py-1 md:px-5" role="status">
        <SignalMark none />
        <Where />
        <button type="button" className="btn" onClick={() => void sendNow()}>
          Try now
        </button>
      </div>
    );
  if (back === null || !waits) return null;
  return (
    <div className="flex items-center gap-3 border-b border-rule px-4 py-2 md:px-5" role="status">
      <SignalMark none={false} />
      <p>
        <b>Signal back, {clock(back.at)}.</b> {Math.max(0, back.before - waits)} of {back.before} sent. The office works
        it out again.
      </p>
    </div>
  );
}

/** What waits to go out, below what it was entered for. */
export function WaitsHere() {
  const { link, fromDevice } = useJob();
  const waits = useWaits();
  return (link === "offline" || fromDevice) && waits.length > 0 ? <WaitsToGo rows={waits} /> : null;
}

/** What came of what waited: an answer that differs, two answers for one thing, something not taken. */
export function LinkNote() {
  const { link, fromDevice } = useJob();
  const waits = useWaits();
  const none = link === "offline" || fromDevice;
  return (
    <div className="mb-4 empty:hidden">
      <Otherwise none={none} waits={waits.length} />
      <TwoAnswers />
      <SetAsideActs />
    </div>
  );
}

function Where() {
  const { since, judgedBy, able, readAt } = useJob();
  const engine = useEngine();
  const said =
    judgedBy === "device"
      ? `This device works it out, by rules ${engine.core}.`
      : able
        ? "The rules start on this device …"
        : `Go on working. The figures are from ${clock(readAt)}, ${ago(readAt, nowMs())}: the rules are not on this device.`;
  return (
    <p className="min-w-[200px] flex-1" data-testid="judged-by">
      <b className="block">No signal since {clock(since ?? readAt)}</b>
      <span className="text-[14px] text-soft">{said}</span>
    </p>
  );
}

/** When the signal came back, and how much waited then; null while nothing waited without one. */
function useBack(none: boolean, waits: number): { at: number; before: number } | null {
  const [back, setBack] = useState<{ at: number; before: number } | null>(null);
  const most = useRef(0);
  useEffect(() => {
    if (none) {
      most.current = Math.max(most.current, waits);
      setBack(null);
    } else if (most.current) {
      setBack({ at: nowMs(), before: most.current });
      most.current = 0;
    }
  }, [none, waits]);
  return back;
}

/** Where the office judges otherwise than this device did, it says so: another version of the rules, or what others entered. */
function Otherwise({ none, waits }: { none: boolean; waits: number }) {
  const { findings, judgedBy } = useJob();
  const here = useRef<Findings | null>(null);
  const [rows, setRows] = useState<string[]>([]);
  useEffect(() => {
    if (judgedBy === "device") here.current = findings;
    else if (!none && waits === 0 && here.current) {
      setRows(differences(here.current, findings));
      here.current = null;
    }
  }, [judgedBy, none, waits, findings]);
  if (!rows.length) return null;
  return (
    <div className="note mt-2" role="status">
      <p className="font-semibold">The office says otherwise than this device did</p>
      <ul>
        {rows.map((row) => (
          <li key={row}>{row}</li>
        ))}
      </ul>
      <button type="button" className="btn mt-2" onClick={() => setRows([])}>
        Seen
      </button>
    </div>
  );
}

/** Step by step, which word differs; and the version, where it is another. */
export function differences(here: Findings, office: Findings): string[] {
  const rows = office.steps.flatMap((step) => {
    const was = here.steps.find((one) => one.step === step.step);
    if (!was || was.verdict.word === step.verdict.word) return [];
    const [before, now] = [was, step].map(({ verdict }) => shownWord(verdict.word, step.step));
    return [`${stepLabel(step.step)}: ${now}. Here it was ${before}.`];
  });
  if (rows.length && here.core_version !== office.core_version)
    rows.push(`This device judged by rules ${here.core_version}, the office by ${office.core_version}.`);
  return rows;
}
