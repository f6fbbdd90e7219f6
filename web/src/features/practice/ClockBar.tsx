import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { client, saidOf, take } from "../../api/client.ts";
import { nowMs } from "../../device/time.ts";
import { useNow } from "../../device/useNow.ts";
import { Dialog } from "../../ui/Dialog.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { useWide } from "../../ui/useWide.ts";
import type { Run } from "./queries.ts";

const SPEEDS = { "0": "Pause", "1": "1×", "10": "10×", "60": "60×" };
const FASTER: Record<number, number> = { 1: 10, 10: 60, 60: 1 };

/** Seconds of practice as a clock shows them. */
export const asClock = (seconds: number): string => {
  const whole = Math.max(0, Math.floor(seconds));
  const two = (number: number) => String(number).padStart(2, "0");
  return `${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`;
};

/** The seconds of a run now, by its own clock. */
export function useSeconds(run: Run, every = 250): number {
  useNow(every);
  return run.time_s + (nowMs() - Date.parse(run.now)) / 1000;
}

/** The practice clock, how fast it goes, and the end of the run. */
export function ClockBar({ run }: { run: Run }) {
  const seconds = useSeconds(run);
  const queries = useQueryClient();
  const wide = useWide();
  const [busy, setBusy] = useState(false);
  const shown = run.state === "going" ? String(run.speed) : "0";
  const params = { path: { run: run.code } };
  const queryKey = ["practice", "run", run.code];
  const fast = (speed: string) => {
    setBusy(true);
    take(client.POST("/api/practice/runs/{run}/clock", { params, body: { speed: Number(speed) } }))
      .then(async (state) => {
        await queries.cancelQueries({ queryKey }); // an answer that was asked for before this would bring the old speed back
        queries.setQueriesData<Run>({ queryKey }, (before) => ({
          ...state,
          inside: before?.inside ?? null,
          came: performance.now(),
        }));
      })
      .catch(() => undefined)
      .finally(() => setBusy(false));
  };
  return (
    <>
      <b
        className="num text-[22px] max-md:text-[19px]"
        role="timer"
        aria-label="practice time"
        data-testid="practice-time"
      >
        {asClock(seconds)}
      </b>
      <span aria-busy={busy}>
        {wide ? (
          <Toggle label="How fast time runs" value={shown} options={SPEEDS} onChange={fast} />
        ) : (
          <span className="inline-flex gap-1">
            <button
              type="button"
              className="chip"
              onClick={() => fast(run.state === "going" ? "0" : String(run.speed))}
            >
              {run.state === "going" ? "Pause" : "Go on"}
            </button>
            <button
              type="button"
              className="chip"
              aria-label={`Time runs ${run.speed}×; faster or slower`}
              onClick={() => fast(String(FASTER[run.speed] ?? 1))}
            >
              <b>{run.speed}×</b>
            </button>
          </span>
        )}
      </span>
      <span className="max-md:hidden">
        <End run={run} />
      </span>
    </>
  );
}

/** The end of a run, once one is sure. */
export function End({ run }: { run: Run }) {
  const [open, setOpen] = useState(false);
  const [said, setSaid] = useState("");
  const navigate = useNavigate();
  const unanswered = run.seen?.asks.filter((ask) => !ask.answer).length ?? 0;
  const end = () =>
    take(client.POST("/api/practice/runs/{run}/end", { params: { path: { run: run.code } } }))
      .then(() => navigate(`/practice/${run.code}/back`))
      .catch((error) => setSaid(saidOf(error)));
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="End it and look back"
      trigger={
        <button type="button" className="chip">
          End
        </button>
      }
    >
      <p>What is done stays as it is, and you see it beside what a careful technician did with the same unit.</p>
      {unanswered > 0 && (
        <p className="note mt-3">
          {unanswered === 1 ? "One question is not answered." : `${unanswered} questions are not answered.`}
        </p>
      )}
      {said && <p className="mt-3 text-stop">{said}</p>}
      <div className="mt-4 flex gap-3">
        <button type="button" className="btn go" onClick={() => void end()}>
          End it
        </button>
        <button type="button" className="btn" onClick={() => setOpen(false)}>
          Go on
        </button>
      </div>
    </Dialog>
  );
}
