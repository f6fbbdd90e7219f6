import { useState } from "react";
import type { StepName } from "../../api/fields.ts";
import { cylindersQuery, useRows } from "../../api/lists.ts";
import type { BookRow, CylinderAsk } from "../../api/types.ts";
import { at, pathOf, useIsClosed, useJob } from "../../job/context.ts";
import { PickFrom } from "../../parts/PickFrom.tsx";
import { useSettled } from "../../parts/useSettled.ts";

type Props = {
  step: StepName;
  record: string;
  /** Which cylinders of the book it may be; `fits` looks closer. */
  ask: CylinderAsk;
  id: string;
  fits: (row: BookRow) => boolean;
  describe: (row: BookRow) => string;
  /** What this step also wants to know of the cylinder. */
  more: (row: BookRow) => Record<string, unknown>;
};

/** A cylinder of the shop's book: what is stamped on it goes into its fields. */
export function FromTheBook({ step, record, ask, id, fits, describe, more }: Props) {
  const { answer, type } = useJob();
  const closed = useIsClosed(step);
  const [search, setSearch] = useState("");
  const book = useRows(cylindersQuery({ ...ask, search: useSettled(search) }));
  const path = (field: string) => pathOf(answer.job, step, [record, id, field]);
  const rows = book.rows.filter(fits);
  if (closed || !(rows.length || book.hasMore || search)) return null;
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
    <div className="mb-1 max-w-[420px]">
      <PickFrom
        label="from the book"
        none="not in the book"
        value={known}
        rows={rows.map((row) => ({ key: row.code, text: `${row.code} · ${describe(row)}` }))}
        hasMore={book.hasMore}
        search={search}
        onSearch={setSearch}
        onPick={(code) => take(rows.find((row) => row.code === code))}
      />
    </div>
  );
}

export function inKg(kg: number): { text: string; unit: string } {
  return { text: kg.toFixed(4), unit: "kg" };
}
