import type { StepName } from "../../api/fields.ts";
import type { Entry } from "../../api/types.ts";
import { ago, show } from "../../format/quantity.ts";
import { useWide } from "../../ui/useWide.ts";
import { at, pathOf, useJob, useRows } from "./context.ts";

const READINGS: [string, string, string][] = [
  ["suction_pressure", "gauge_pressure", "suction"],
  ["liquid_pressure", "gauge_pressure", "liquid"],
  ["suction_line", "temperature", "suction line"],
  ["liquid_line", "temperature", "liquid line"],
  ["outdoor", "temperature", "outdoor"],
];

/** Steps before the system is opened: what was read is As found's, and the scale is the recovery cylinder's. */
const EARLY: StepName[] = ["identify", "as_found", "leak_search", "recover", "repair"];

/** What the instruments say; until probes are connected every value is typed, and marked so with its age. */
export function Strip({ step }: { step: StepName }) {
  const { answer, system } = useJob();
  const wide = useWide();
  const draws = useRows("weigh_in", "draws", ["d1"]);
  const taken = useRows("recover", "cylinders", ["c1"]);
  const readings = useRows("verify", "readings", ["r1"]);
  const draw = draws[draws.length - 1] ?? "d1";
  const reading = readings[readings.length - 1] ?? "r1";
  const first = EARLY.includes(step);
  const scaleAt = (keys: string[]) =>
    at(answer.job, pathOf(answer.job, first ? "recover" : "weigh_in", keys)) as Entry | null;
  const filling = taken[taken.length - 1] ?? "c1";
  const scale = first
    ? (scaleAt(["cylinders", filling, "gross_now"]) ?? scaleAt(["cylinders", filling, "gross_start"]))
    : (scaleAt(["draws", draw, "gross_end"]) ?? scaleAt(["draws", draw, "gross_start"]));
  const read = (field: string) =>
    at(
      answer.job,
      first ? pathOf(answer.job, "as_found", [field]) : pathOf(answer.job, "verify", ["readings", reading, field]),
    ) as Entry | null;
  const cells = [
    { label: "scale", entry: scale, quantity: "mass" },
    ...READINGS.map(([field, quantity, label]) => ({
      label,
      quantity,
      entry: read(field),
    })),
  ];
  if (!wide && cells.every((cell) => !cell.entry)) return null;
  return (
    <section
      tabIndex={0}
      aria-label="Instruments"
      data-step={step}
      className="flex min-h-[60px] items-stretch overflow-x-auto border-t border-rule "
    >
      {cells
        .filter((cell) => wide || cell.entry)
        .map(({ label, entry, quantity }) => (
          <div key={label} className="border-r border-rule px-5 py-2 whitespace-nowrap">
            <p className="lab">{label}</p>
            <p className="text-[16px] leading-[22px] font-semibold">
              {entry ? show(entry.value, quantity, system) : "—"}{" "}
              {entry && (
                <span className="text-[13px] font-normal text-soft">
                  typed{entry.at ? ` ${ago(entry.at, Date.now())}` : ""}
                </span>
              )}
            </p>
          </div>
        ))}
    </section>
  );
}
