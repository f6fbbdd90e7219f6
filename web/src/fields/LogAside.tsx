import { useState } from "react";
import { useIsClosed, useRows, useStep } from "../job/context.ts";
import { MomentField } from "./MomentField.tsx";
import { nextKey } from "./Readings.tsx";
import { TextField } from "./TextField.tsx";

const SHARED = 2; // a pull's last reading and its rise's first may be one and the same

/** Parts of an instrument's log that say something else than the unit: from when to when, and why. */
export function LogAside({ step, record }: { step: "evacuate" | "pressure_hold"; record: string }) {
  const closed = useIsClosed(step);
  const rows = useRows(step, "aside", []);
  const typed = useRows(step, record, []).length;
  const { picture } = useStep(step);
  const [open, setOpen] = useState<string | null>(null);
  const measured = picture.charts.flatMap((chart) => chart.curves.filter((curve) => curve.id === "measured"));
  const drawn = measured.reduce((sum, curve) => sum + curve.seconds.length, 0);
  const logged = drawn > typed + SHARED; // an open step's log is the server's; only what it drew is here
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
            hint="kept in the record, not counted"
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
