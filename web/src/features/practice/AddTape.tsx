import { useEffect, useState } from "react";
import type { Opinion } from "../../api/types.ts";
import { inUnit, show, unitFor } from "../../format/quantity.ts";
import { useJob } from "../../job/context.ts";
import { useSettled } from "../../parts/useSettled.ts";

/** How much would be put in: moved along a tape, or typed. */
export function AddTape({ opinion, onAdd }: { opinion: Opinion; onAdd: (text: string) => void }) {
  const { system } = useJob();
  const unit = system === "si" ? "kg" : "oz";
  const [kg, setKg] = useState(opinion.added_kg);
  const settled = useSettled(kg, 250);
  useEffect(() => onAdd(settled ? `${settled.toFixed(4)} kg` : ""), [settled, onAdd]);
  const most = opinion.most_kg / 2;
  const [first] = opinion.candidates;
  return (
    <div>
      <h2 className="text-soft">Put in, if I did</h2>
      <p className="num mt-1 text-[26px]" aria-live="polite">
        {kg > 0 ? "+ " : ""}
        {show(kg, "mass", system)}
      </p>
      <input
        type="range"
        className="mt-3 w-full accent-[var(--copper)]"
        aria-label="How much would be put in"
        aria-valuetext={show(kg, "mass", system)}
        min={-most}
        max={most}
        step={most / 64}
        value={kg}
        onChange={(event) => setKg(Math.abs(Number(event.target.value)) < most / 100 ? 0 : Number(event.target.value))}
      />
      <p className="flex justify-between text-[14px] text-soft">
        <span>{inUnit(-most, "mass", unit, system === "si" ? 1 : 0)} out</span>
        <span>0</span>
        <span>
          {inUnit(most, "mass", unit, system === "si" ? 1 : 0)} {unit} in
        </span>
      </p>
      {first && first.off_kg < -0.005 && (
        <p className="mt-4 border-t border-rule pt-3 text-[15px]">
          Full, if it is A: <b>{show(-first.off_kg, "mass", system)}</b> more
          {opinion.step_kg !== null && (
            <span className="block text-soft">
              at most {show(opinion.step_kg, "mass", system)} at once, says the job
            </span>
          )}
        </p>
      )}
      <h2 className="mt-6 border-t border-rule pt-3 text-soft">What I read</h2>
      {(
        [
          ["superheat", opinion.read_superheat_k],
          ["subcooling", opinion.read_subcooling_k],
        ] as const
      ).map(([name, value]) => (
        <p key={name} className="flex justify-between">
          <span>{name}</span>
          <b>{value === null ? "not read" : show(value, "temperature_delta", system)}</b>
        </p>
      ))}
      <p className="mt-4 text-[14px] text-soft">
        {unitFor("temperature_delta", system)} as gauges and clamps gave them. No other unit of this plate is exactly
        yours.
      </p>
    </div>
  );
}
