import { useState } from "react";
import type { StepName } from "../api/fields.ts";
import { at, pathOf, useIsClosed, useJob } from "../job/context.ts";
import { TextField } from "./TextField.tsx";

/** A reading that says something else than the unit: kept in the record with its reason, and taken anew. */
export function SetAside({ step, keys, className = "" }: { step: StepName; keys: string[]; className?: string }) {
  const { answer, drafts } = useJob();
  const closed = useIsClosed(step);
  const path = pathOf(answer.job, step, [...keys, "set_aside"]);
  const [open, setOpen] = useState(false);
  const said = at(answer.job, path) !== null || path in drafts;
  if (!said && closed) return null;
  if (said || open)
    return (
      <TextField
        step={step}
        keys={[...keys, "set_aside"]}
        className={className}
        hint="kept in the record, not counted; read it again"
      />
    );
  return (
    <p className={className}>
      <button type="button" className="btn quiet" onClick={() => setOpen(true)}>
        Set this reading aside
      </button>
    </p>
  );
}
