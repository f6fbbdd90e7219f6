import { type StepName, stepFacts } from "../../api/fields.ts";
import { useIsClosed, useJob } from "../../job/context.ts";
import { CHANNELS } from "../instruments/channels.ts";

/** Which live values still move: a reading taken now would say less than one taken later. */
export function Unsteady({ step }: { step: StepName }) {
  const { live } = useJob();
  const closed = useIsClosed(step);
  const moving = stepFacts(step).channels.filter(
    (name) => live[name]?.steady === "rising" || live[name]?.steady === "falling",
  );
  if (closed || !moving.length) return null;
  return (
    <p className="note mb-2" data-testid="unsteady">
      Still moving: {moving.map((name) => `${CHANNELS[name]?.label ?? name} ${live[name]?.steady}`).join(", ")}. Read it
      when they stand.
    </p>
  );
}
