import type { RefrigerantRow, System } from "../../api/types.ts";
import { inUnit, show } from "../../format/quantity.ts";

export function Facts({
  row,
  critical,
  system,
}: {
  row: RefrigerantRow;
  critical: number | undefined;
  system: System;
}) {
  const parts = row.parts as { name: string; mass_share: number }[];
  const facts: [string, string][] = [
    ["safety class", row.safety_class],
    ["GWP, AR4", String(Math.round(row.gwp_ar4))],
    ["oils", row.oils.join(", ")],
    ["its tables were checked against", row.stands_on],
    ["critical", critical ? show(critical, "temperature", system) : ""],
    [
      "by mass",
      parts.length > 1
        ? parts.map((p) => `${p.name} ${inUnit(p.mass_share, "fraction", "%").replace(/\.0$/, "")} %`).join(" · ")
        : "single component",
    ],
  ];
  return (
    <dl className="mt-1 text-[15px]">
      {facts.map(([label, text]) => (
        <div key={label} className="flex justify-between gap-4 border-b border-rule py-[6px]">
          <dt className="text-soft">{label}</dt>
          <dd className="text-right font-semibold">{text}</dd>
        </div>
      ))}
    </dl>
  );
}
