import type { BeforeAfter as Row, System } from "../api/types.ts";
import { showAmount } from "../format/quantity.ts";
import { Scrollable } from "../ui/Scrollable.tsx";

/** A machine before and after a change: the conditions first, then what it did under them. */
export function BeforeAfter({ rows, from, to, system }: { rows: Row[]; from: string; to: string; system: System }) {
  if (!rows.length) return null;
  return (
    <Scrollable className="mt-4" label="Before and after" data-testid="before-after">
      <table className="w-full max-w-[560px] border-collapse text-left text-[14px]">
        <thead>
          <tr className="border-y border-ink">
            <th scope="col" className="py-2 pr-3 font-semibold">
              Before and after
            </th>
            <th scope="col" className="px-2 text-right font-normal">
              {from}
            </th>
            <th scope="col" className="px-2 text-right font-semibold text-copper">
              {to}
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.label} className="border-b border-rule">
              <th scope="row" className={`py-1 pr-3 font-normal ${row.condition ? "text-soft" : ""}`}>
                {row.label}
              </th>
              <td className="px-2 text-right">{row.before ? showAmount(row.before, system) : "—"}</td>
              <td className="px-2 text-right font-semibold">{row.after ? showAmount(row.after, system) : "—"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scrollable>
  );
}
