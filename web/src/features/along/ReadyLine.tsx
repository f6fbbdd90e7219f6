import { useEffect } from "react";
import { Link } from "react-router";
import { canKeep } from "../../engine/files.ts";
import { clock } from "../../format/clock.ts";
import { mb, refuse, usePreparing, want, weigh } from "./preparing.ts";

/** On Today: how ready this device is to work without signal; and asked once, whether it shall be. */
export default function ReadyLine() {
  const { wanted, engine, ready, share, bytes } = usePreparing();
  const asks = canKeep() && engine === "absent" && wanted === null;
  useEffect(() => {
    if (asks) void weigh();
  }, [asks]);
  if (share !== null)
    return <p className="text-[15px] text-soft">Getting ready to work without signal: {Math.round(share * 100)} %.</p>;
  if (wanted === "yes" && engine === "here" && ready)
    return (
      <p className="text-[15px] text-soft">
        Ready without signal, as of {clock(ready.at)}
        {ready.missing > 0 && <b className="text-wait">, not all of it</b>}.{" "}
        <Link to="/account" className="inline-flex min-h-[44px] items-center underline">
          What is here
        </Link>
      </p>
    );
  if (!asks || !bytes) return null;
  return (
    <section aria-label="Work without signal" className="mt-2 flex max-w-[720px] flex-wrap items-center gap-3">
      <p className="min-w-[240px] flex-1 text-[15px]">
        <b className="font-semibold">No signal in the basement?</b> This device can judge by itself, by the same rules.
      </p>
      <button type="button" className="btn" onClick={() => void want()}>
        Get it ready, {mb(bytes)}
      </button>
      <button type="button" className="btn quiet" onClick={() => void refuse()}>
        Not here
      </button>
    </section>
  );
}
