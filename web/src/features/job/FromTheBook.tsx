import { useQuery } from "@tanstack/react-query";
import type { StepName } from "../../api/fields.ts";
import { cylindersQuery } from "../../api/queries.ts";
import type { BookRow } from "../../api/types.ts";
import { at, pathOf, useIsClosed, useJob } from "../../job/context.ts";

type Props = {
  step: StepName;
  record: string;
  id: string;
  fits: (row: BookRow) => boolean;
  describe: (row: BookRow) => string;
  /** What this step also wants to know of the cylinder. */
  more: (row: BookRow) => Record<string, unknown>;
};

/** A cylinder of the shop's book: what is stamped on it goes into its fields. */
export function FromTheBook({ step, record, id, fits, describe, more }: Props) {
  const { answer, type } = useJob();
  const closed = useIsClosed(step);
  const { data } = useQuery(cylindersQuery);
  const path = (field: string) => pathOf(answer.job, step, [record, id, field]);
  const rows = (data?.data ?? []).filter(fits);
  if (closed || !rows.length) return null;
  const take = (row: BookRow | undefined) => {
    if (!row) return;
    const stamped = {
      cylinder: row.code,
      tare: { text: row.tare_text, unit: "lb" },
      ...(row.water_capacity_kg && { water_capacity: inKg(row.water_capacity_kg) }),
    };
    for (const [field, value] of Object.entries({ ...stamped, ...more(row) })) {
      type(path(field), value, { ready: true, force: true });
    }
  };
  const known = String(at(answer.job, path("cylinder")) ?? "");
  return (
    <label className="mb-1 flex max-w-[420px] items-center gap-3 text-[14px] text-soft">
      from the book
      <select
        className="control"
        value={rows.some((row) => row.code === known) ? known : ""}
        onChange={(event) => take(rows.find((row) => row.code === event.target.value))}
      >
        <option value="">not in the book</option>
        {rows.map((row) => (
          <option key={row.code} value={row.code}>
            {row.code} · {describe(row)}
          </option>
        ))}
      </select>
    </label>
  );
}

export function inKg(kg: number): { text: string; unit: string } {
  return { text: kg.toFixed(4), unit: "kg" };
}
