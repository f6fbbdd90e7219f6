import { useState } from "react";
import { showAmount } from "../../../format/quantity.ts";
import { BuildUpLines } from "../../../parts/BuildUp.tsx";
import { ScaleTape } from "../../../parts/ScaleTape.tsx";
import { Why } from "../../../parts/Why.tsx";
import { Toggle } from "../../../ui/Toggle.tsx";
import { useJob, useStep } from "../../job/context.ts";

/** The build-up in short, and the scale from start to stop. */
export function WeighInSide() {
  const { system, following } = useJob();
  const identify = useStep("identify");
  const { picture } = useStep("weigh_in");
  const [counted, setCounted] = useState("gross");
  const total = identify.figures.find((f) => f.id === "total");
  return (
    <div>
      <div className="flex items-center justify-between">
        <h2 className="text-soft">Charge</h2>
        {total && <Why figure={total} system={system} />}
      </div>
      {total && (
        <BuildUpLines parts={identify.picture.parts} total={showAmount(total.amount, system)} system={system} />
      )}
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
