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

/** What the instruments say; until probes are connected every value is typed, and marked so with its age. */
export function Strip({ step }: { step: StepName }) {
  const { answer, system } = useJob();
  const wide = useWide();
  const draws = useRows("weigh_in", "draws", ["d1"]);
  const readings = useRows("verify", "readings", ["r1"]);
  const draw = draws[draws.length - 1] ?? "d1";
  const reading = readings[readings.length - 1] ?? "r1";
  const scale = (at(answer.job, pathOf(answer.job, "weigh_in", ["draws", draw, "gross_end"])) ??
    at(answer.job, pathOf(answer.job, "weigh_in", ["draws", draw, "gross_start"]))) as Entry | null;
  const cells = [
    { label: "scale", entry: scale, quantity: "mass" },
    ...READINGS.map(([field, quantity, label]) => ({
      label,
      quantity,
      entry: at(answer.job, pathOf(answer.job, "verify", ["readings", reading, field])) as Entry | null,
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
