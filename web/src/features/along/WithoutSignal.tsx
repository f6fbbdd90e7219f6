import { useEffect, useState } from "react";
import { canKeep } from "../../engine/files.ts";
import { useEngine } from "../../engine/useEngine.ts";
import { clock } from "../../format/clock.ts";
import { lookRound, mb, refuse, usePreparing, want, weigh } from "./preparing.ts";

/** Work without signal on this device: whether it is wanted, how far it is, what it takes, and taking it away again. */
export function WithoutSignal() {
  const now = usePreparing();
  const engine = useEngine();
  const space = useSpace(now.engine);
  useEffect(() => {
    void lookRound();
    void weigh();
  }, []);
  if (!canKeep()) return null;
  const busy = now.share !== null;
  const here = now.engine === "here" && now.wanted === "yes";
  return (
    <section aria-label="Work without signal" className="mb-6">
      <h2 className="border-b border-ink pb-1">Work without signal</h2>
      {here ? <Standing /> : <Offer />}
      {now.share !== null && <Share share={now.share} />}
      {now.refused && (
        <p className="note stop mt-2" role="alert">
          It did not come whole: {now.refused} What came stays; try again.
        </p>
      )}
      {engine.at === "failed" && (
        <p className="note stop mt-2" role="alert">
          The rules are here and do not start on this device: {engine.why}
        </p>
      )}
      <p className="mt-3 flex flex-wrap items-center gap-3">
        {here ? (
          <button type="button" className="btn quiet" onClick={() => void refuse()}>
            Take the rules off this device
          </button>
        ) : (
          <button type="button" className="btn" disabled={busy} onClick={() => void want()}>
            {now.wanted === "yes" ? "Try again" : `Get this device ready${now.bytes ? `, ${mb(now.bytes)}` : ""}`}
          </button>
        )}
        {space && <span className="text-[14px] text-soft">{space}</span>}
      </p>
    </section>
  );
}

function Offer() {
  return (
    <p className="mt-2 text-[15px]">
      In a basement or on a roof this device can go on judging by itself, by the same rules. Your open jobs, their
      circuits and the cylinders come along, locked under your sign-in. The browser is asked to keep them: one that
      clears a device when space runs short would lose what waits to go out.
    </p>
  );
}

function Standing() {
  const { ready, version } = usePreparing();
  if (!ready) return <p className="mt-2 text-[15px]">The rules are here. The jobs come with the next signal.</p>;
  const jobs = ready.jobs === 1 ? "one open job" : `${ready.jobs} open jobs`;
  return (
    <p className="mt-2 text-[15px]" data-testid="ready">
      <b>Ready without signal, as of {clock(ready.at)}.</b> {jobs}, rules {version}.
      {ready.missing > 0 && ` Not all of it: ${ready.missing} pieces did not come yet.`}
    </p>
  );
}

function Share({ share }: { share: number }) {
  return (
    <div className="mt-3">
      <progress className="w-full" max={1} value={share} aria-label="How much is here" />
      <p className="text-[14px] text-soft">{Math.round(share * 100)} % is here. You can go on working.</p>
    </div>
  );
}

/** What Yoshi takes on this device, and whether the browser promised to keep it. */
function useSpace(again: string): string {
  const [said, setSaid] = useState("");
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at again when something came or went
  useEffect(() => {
    let gone = false;
    const look = async () => {
      const [estimate, kept] = await Promise.all([navigator.storage?.estimate?.(), navigator.storage?.persisted?.()]);
      if (gone || estimate?.usage === undefined) return;
      setSaid(
        `Yoshi takes ${mb(estimate.usage)} here${kept ? "" : "; the browser may clear it when space runs short"}.`,
      );
    };
    void look().catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [again]);
  return said;
}
