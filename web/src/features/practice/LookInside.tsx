import { Link } from "react-router";
import type { LookInside as Inside } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { inUnit, show, unitFor } from "../../format/quantity.ts";
import { useWide } from "../../ui/useWide.ts";
import { useWidth } from "../../ui/useWidth.ts";
import { useMoving } from "./moving.ts";
import type { Run } from "./queries.ts";
import { SideOfInside } from "./SideOfInside.tsx";
import { Warmth } from "./Warmth.tsx";
import { Whereabouts } from "./Whereabouts.tsx";

/** The whole circuit laid out flat: where the refrigerant is, how warm it is there, as the model works it out. */
export function LookInside({ run, back }: { run: Run; back: string }) {
  if (!run.inside)
    return <p className="text-soft">{run.test ? "A test is taken without looking inside." : "Looking …"}</p>;
  return <Moving inside={run.inside} refrigerant={run.card.refrigerant} back={back} />;
}

function Moving({ inside, refrigerant, back }: { inside: Inside; refrigerant: string; back: string }) {
  const shown = useMoving(inside);
  const { system } = useSession();
  const [box, width] = useWidth(700);
  const wide = useWide();
  const pounds = system === "us" ? "lb" : "kg";
  return (
    <section aria-labelledby="inside-name" data-testid="inside">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 id="inside-name">Where the refrigerant is</h1>
        <p className="text-[14px] text-soft">
          {show(shown.mass_kg, "mass", system)}, the circuit laid out flat, as long as its room inside
        </p>
      </div>
      <div ref={box}>
        <Whereabouts inside={shown} system={system} width={width} />
        <p className="mt-2 text-[15px]">
          {shown.running ? (
            <b className="text-copper">
              {inUnit(shown.flow_kg_s * 3600, "mass", pounds, 0)} {pounds} an hour {wide ? "goes round" : "round"}
            </b>
          ) : (
            <b>It stands: nothing goes round.</b>
          )}{" "}
          <span className="text-soft">· {show(shown.oil_kg, "mass", system)} of it are in the oil</span>
        </p>
        <h2 className="mt-4 text-[18px]">
          How warm it is there{" "}
          <span className="text-[14px] font-normal text-soft">
            {unitFor("temperature", system)}, on the same length
          </span>
        </h2>
        <Warmth inside={shown} system={system} width={width} />
      </div>
      {!wide && <SideOfInside inside={shown} refrigerant={refrigerant} />}
      <p className="mt-3 flex flex-wrap items-center gap-4">
        <Link to={back} className="btn go">
          Close it up again
        </Link>
        <span className="text-[14px] text-soft">
          What the model works out, not a measured unit. What you read runs after it: the instruments and the pipe lag.
        </span>
      </p>
    </section>
  );
}

/** The same beside the drawing on a desk. */
export function InsideAside({ run }: { run: Run }) {
  if (!run.inside) return null;
  return <MovingSide inside={run.inside} refrigerant={run.card.refrigerant} />;
}

function MovingSide({ inside, refrigerant }: { inside: Inside; refrigerant: string }) {
  return <SideOfInside inside={useMoving(inside)} refrigerant={refrigerant} />;
}
