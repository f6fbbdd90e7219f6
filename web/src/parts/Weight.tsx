import type { System } from "../api/types.ts";
import { inUnit, otherFaces, poundsOunces } from "../format/quantity.ts";

/** A weight to act on: large in the person's units, every other face within reach. */
export function Weight({ kg, system, label, spread }: { kg: number; system: System; label: string; spread?: string }) {
  return (
    <div>
      <p className="big" role="img" aria-label={label} data-testid="big-weight">
        <WeightText kg={kg} system={system} />
      </p>
      <p className="mt-1 flex flex-wrap gap-x-5 text-[14px] text-soft">
        {otherFaces(kg, system).map((face) => (
          <span key={face}>
            <b className="text-ink">{face.replace(/ (lb|oz|kg|g)$/, "")}</b> {face.match(/(lb|oz|kg|g)$/)?.[0]}
          </span>
        ))}
        {spread && <b className="text-ink">{spread}</b>}
      </p>
    </div>
  );
}

function WeightText({ kg, system }: { kg: number; system: System }) {
  if (system !== "us") {
    const grams = system === "grams" || Math.abs(kg) < 1;
    return (
      <>
        {inUnit(kg, "mass", grams ? "g" : "kg")}
        <small>{grams ? "g" : "kg"}</small>
      </>
    );
  }
  const { sign, pounds, ounces } = poundsOunces(kg);
  return (
    <>
      {pounds !== "0" && (
        <>
          {sign}
          {pounds}
          <small>lb</small>
        </>
      )}
      {pounds === "0" && sign}
      {ounces}
      <small>oz</small>
    </>
  );
}
