import { useState } from "react";
import type { StepName } from "../api/fields.ts";
import { at, pathOf, useIsClosed, useJob, useRows } from "../job/context.ts";
import { MomentField } from "./MomentField.tsx";
import { nextKey } from "./Readings.tsx";
import { TextField } from "./TextField.tsx";

/** Parts of an instrument's log that say something else than the unit: from when to when, and why. */
export function LogAside({ step, log }: { step: StepName; log: string }) {
  const { answer } = useJob();
  const closed = useIsClosed(step);
  const rows = useRows(step, "aside", []);
  const [open, setOpen] = useState<string | null>(null);
  const logged = at(answer.job, pathOf(answer.job, step, [log])) !== null;
  const shown = open && !rows.includes(open) ? [...rows, open] : rows;
  if (!logged && !rows.length) return null;
  return (
    <div className="mt-2">
      {shown.map((row) => (
        <div key={row} className="grid grid-cols-2 gap-x-5 border-t border-rule pt-1 lg:grid-cols-4">
          <MomentField step={step} keys={["aside", row, "since"]} className="col-span-2" />
          <MomentField step={step} keys={["aside", row, "until"]} className="col-span-2" />
          <TextField
            step={step}
            keys={["aside", row, "set_aside"]}
            className="col-span-full"
            hint="it stays in the record and counts for nothing"
          />
        </div>
      ))}
      {!closed && (
        <button type="button" className="btn quiet" onClick={() => setOpen(nextKey(rows, "a"))}>
          Set part of the log aside
        </button>
      )}
    </div>
  );
}
