import type { ReactNode } from "react";
import type { RetrofitRow, RetrofitTable } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { fill } from "../../format/message.ts";
import { show } from "../../format/quantity.ts";
import { Weight } from "../../parts/Weight.tsx";

/** How much of the chosen one goes in, and what changes with it. */
export function Plan({ row, table, children }: { row: RetrofitRow; table: RetrofitTable; children?: ReactNode }) {
  const { system } = useSession();
  return (
    <div data-testid="plan">
      <h2 className="text-soft">Plan for {row.name}</h2>
      {row.start && row.final && table.full ? (
        <>
          <p className="mt-2 text-[16px] font-semibold text-copper">
            {table.by_weight ? "Weigh in, and nothing more" : "Start with"}
          </p>
          <Weight
            kg={(table.by_weight ? row.final : row.start).value}
            system={system}
            label={table.by_weight ? "weigh in" : "start with"}
          />
          <dl className="mt-3 border-t border-rule text-[14px]">
            <Line label={`${table.refrigerant}, full, with its lines`} value={show(table.full.value, "mass", system)} />
            <Line label="liquid density, new over old" value={`× ${(row.ratio ?? 1).toFixed(3)}`} />
            <Line label="expected in the end" value={show(row.final.value, "mass", system)} />
          </dl>
          <p className="mt-2 text-[14px] text-soft">
            From the correct full charge, never from what was recovered after a leak.{" "}
            {table.by_weight ? "By weight alone: nothing is trimmed." : "Then trimmed in steps towards the end."}
          </p>
        </>
      ) : (
        <p className="mt-2 text-[14px] text-soft">
          The plate gives no full charge: without it there is no start. What was recovered after a leak is not it.
        </p>
      )}
      {children && <div className="mt-3 flex flex-wrap gap-3">{children}</div>}
      <h2 className="mt-4">Change with it</h2>
      <ul className="mt-1 grid gap-1 text-[14px]">
        {row.changes.map((change) => (
          <li key={change.text} className="border-l-4 border-[var(--edge)] pl-3">
            {fill(change, system)}
          </li>
        ))}
      </ul>
      <p className="note mt-4">
        Nothing is ever topped up with another refrigerant, and nothing is mixed in a cylinder. The maker's
        instructions, the data plate and local law prevail.
      </p>
    </div>
  );
}

function Line({ label, value }: { label: string; value: string }) {
  return (
    <div className="flex justify-between gap-3 border-b border-rule py-1">
      <dt className="text-soft">{label}</dt>
      <dd className="font-semibold whitespace-nowrap">{value}</dd>
    </div>
  );
}
