import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Seen } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { show } from "../../format/quantity.ts";
import { useWide } from "../../ui/useWide.ts";
import { useWidth } from "../../ui/useWidth.ts";
import { End } from "./ClockBar.tsx";
import { Drawing } from "./Drawing.tsx";
import { Limits } from "./Limits.tsx";
import { OnThePhone } from "./OnThePhone.tsx";
import type { Run } from "./queries.ts";
import { Tools } from "./Tools.tsx";
import { useTouch } from "./useTouch.ts";

const DRAWN_FROM = 690;

type Place = { run: Run; base: string; step: string };

/** The unit somebody stands in front of, as soon as it is there; said where its time does not run. */
export function AtTheUnit(place: Place) {
  const { seen, stalled } = place.run;
  const long = useStalled(stalled);
  if (long)
    return (
      <p className="note stop m-4" role="alert">
        Practice time does not run: what lets it run is not there at the office. Nothing is lost; it goes on by itself.
      </p>
    );
  if (!seen) return <p className="px-7 py-4 text-soft">The bench is being set up …</p>;
  return <Bench {...place} seen={seen} />;
}

/** Its switches, valves and hoses, the cylinder on the scale, and the tools beside. */
function Bench({ run, base, step, seen }: Place & { seen: Seen }) {
  const { touch, asked, refused } = useTouch(run);
  const { system } = useSession();
  const wide = useWide();
  const [box, width] = useWidth(720);
  const [open, setOpen] = useState(true);
  const Picture = wide && width >= DRAWN_FROM ? Drawing : OnThePhone; // narrower, its words could not be read
  const reason = !seen.running && seen.reason && seen.reason !== "switched off" ? seen.reason : "";
  return (
    <section
      ref={box}
      aria-label="At the unit"
      className="border-t border-rule bg-paper px-5 pt-3 pb-2 md:px-6"
      data-testid="at-the-unit"
    >
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-[18px]">At the unit</h2>
        <p className="min-w-0 flex-1 text-[14px] text-soft" role="status">
          {refused ? (
            <b className="text-stop">{refused}</b>
          ) : reason ? (
            <b className="text-wait">
              It stopped: {reason}.{seen.trips > 0 && ` ${seen.trips}×.`}
            </b>
          ) : (
            "touch a valve, a switch, the cylinder"
          )}
        </p>
        {Math.abs(seen.flow_kg_s) > 1e-6 && (
          <p className="text-[15px] font-semibold text-copper">
            {show(Math.abs(seen.flow_kg_s) * 60, "mass", system)} a minute,{" "}
            {seen.hose === "liquid" ? "liquid" : "vapour"}
          </p>
        )}
        {!run.test && (
          <Link to={`${base}/inside`} className="btn quiet -my-2" data-testid="look-inside">
            Look inside
          </Link>
        )}
        <button
          type="button"
          className="btn quiet -my-2 max-md:hidden"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {open ? "Smaller" : "Show all"}
        </button>
      </div>
      {open && <Picture seen={seen} touch={touch} asked={asked} />}
      <Tools seen={seen} touch={touch} />
      {!wide && (
        <>
          <Limits run={run} base={base} looking={false} step={step} />
          <End run={run} />
        </>
      )}
    </section>
  );
}

const PATIENT_MS = 4_000;

/** Said only once it has been so for a while: a run that was just opened is taken up within a second. */
function useStalled(stalled: boolean): boolean {
  const [long, setLong] = useState(false);
  useEffect(() => {
    if (!stalled) {
      setLong(false);
      return;
    }
    const timer = setTimeout(() => setLong(true), PATIENT_MS);
    return () => clearTimeout(timer);
  }, [stalled]);
  return long;
}
