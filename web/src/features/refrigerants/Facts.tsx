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
    ["its tables were held against", row.stands_on],
    ["critical", critical ? show(critical, "temperature", system) : ""],
    [
      "by mass",
      parts.length > 1
        ? parts.map((p) => `${p.name} ${inUnit(p.mass_share, "fraction", "%").replace(/\.0$/, "")} %`).join(" · ")
        : "single component",
    ],
  ];
  return (
    <dl className="mt-3 flex flex-wrap gap-x-8 gap-y-2 border-t border-rule pt-3">
      {facts.map(([label, text]) => (
        <div key={label}>
          <dt className="lab">{label}</dt>
          <dd className="font-semibold">{text}</dd>
        </div>
      ))}
    </dl>
  );
}
