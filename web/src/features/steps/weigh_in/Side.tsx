import { useState } from "react";
import { useJob, useStep } from "../../../job/context.ts";
import { ScaleTape } from "../../../parts/ScaleTape.tsx";
import { Toggle } from "../../../ui/Toggle.tsx";
import { ChargeLines } from "../../job/ChargeLines.tsx";

/** The build-up in short, and the scale from start to stop. */
export function WeighInSide() {
  const { system, following } = useJob();
  const { picture } = useStep("weigh_in");
  const [counted, setCounted] = useState("gross");
  return (
    <div>
      <ChargeLines />
      {picture.marks.length > 0 && (
        <div className="mt-4">
          <ScaleTape
            marks={picture.marks}
            system={system}
            counted={counted === "counted"}
            reads={following && picture.scale?.draw === following.draw ? following.gross_kg : null}
          />
          <Toggle
            label="Tape shows"
            value={counted}
            options={{ gross: "Gross", counted: "From zero" }}
            onChange={setCounted}
          />
        </div>
      )}
    </div>
  );
}
