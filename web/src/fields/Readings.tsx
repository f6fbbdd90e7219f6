import { useState } from "react";
import { factsOf, type StepName, unitsOf } from "../api/fields.ts";
import type { Entry } from "../api/types.ts";
import { nowMs } from "../device/time.ts";
import { clock, show } from "../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows } from "../job/context.ts";
import { EntryField } from "./index.ts";
import { MomentField } from "./MomentField.tsx";
import { SetAside } from "./SetAside.tsx";

type Props = { step: StepName; record: string; fields: string[]; go: string };

/** The number of the next row of a record. */
export function nextKey(rows: string[], prefix: string): string {
  const numbers = rows.map((row) => Number(row.slice(prefix.length))).filter(Number.isFinite);
  return `${prefix}${Math.max(0, ...numbers) + 1}`;
}

/** A reading typed at this moment, and the ones before it. */
export function Readings({ step, record, fields, go }: Props) {
  const job = useJob();
  const closed = useIsClosed(step);
  const rows = useRows(step, record, []);
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [all, setAll] = useState(false);
  const path = (row: string, field: string) => pathOf(job.answer.job, step, [record, row, field]);
  const unit = (field: string) => unitsOf(factsOf(step, [record, "r1", field]), job.system)[0] ?? "";
  const add = () => {
    const given = fields.filter((field) => texts[field]?.trim());
    if (!given.length) return;
    const row = nextKey(rows, "r");
    job.type(path(row, "at"), new Date(nowMs()).toISOString(), { ready: true });
    for (const field of given) job.type(path(row, field), { text: texts[field], unit: unit(field) }, { ready: true });
    setTexts({});
  };
  const problems = rows.flatMap((row) => fields.map((field) => job.problems[path(row, field)])).filter(Boolean);
  return (
    <section aria-label="Readings" className="mt-4">
      {!closed && (
        <form
          className="flex flex-wrap items-end gap-x-4 gap-y-2"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          {fields.map((field) => {
            const facts = factsOf(step, [record, "r1", field]);
            return (
              <label key={field} className="block w-[150px]">
                <span className="lab">
                  {facts.label}, {unit(field)}
                </span>
                <input
                  className="control"
                  inputMode="decimal"
                  autoComplete="off"
                  value={texts[field] ?? ""}
                  onChange={(event) => setTexts({ ...texts, [field]: event.target.value })}
                />
              </label>
            );
          })}
          <button type="submit" className="btn">
            {go}
          </button>
        </form>
      )}
      {rows.length > 0 && (
        <details className="mt-2" open={all || problems.length > 0} onToggle={(e) => setAll(e.currentTarget.open)}>
          <summary className="min-h-[44px] cursor-pointer py-3 text-[14px] text-soft">
            {rows.length === 1 ? "One reading" : `${rows.length} readings`}, last{" "}
            <Last job={job.answer.job} step={step} record={record} rows={rows} fields={fields} />
          </summary>
          {(all || problems.length > 0) &&
            rows.map((row) => (
              <div key={row} className="grid grid-cols-2 gap-x-5 border-t border-rule pt-1 lg:grid-cols-4">
                <MomentField step={step} keys={[record, row, "at"]} className="col-span-2" />
                {fields.map((field) => (
                  <EntryField key={field} step={step} keys={[record, row, field]} />
                ))}
                <SetAside step={step} keys={[record, row]} className="col-span-full" />
              </div>
            ))}
        </details>
      )}
    </section>
  );
}

function Last({ job, step, record, rows, fields }: Omit<Props, "go"> & { job: unknown; rows: string[] }) {
  const { system } = useJob();
  const stamped = rows
    .map((row) => ({ row, at: at(job, pathOf(job, step, [record, row, "at"])) as string | null }))
    .filter((item): item is { row: string; at: string } => item.at !== null)
    .filter((item) => at(job, pathOf(job, step, [record, item.row, "set_aside"])) === null)
    .sort((a, b) => a.at.localeCompare(b.at));
  const last = stamped[stamped.length - 1];
  if (!last) return null;
  const said = fields
    .map((field) => {
      const entry = at(job, pathOf(job, step, [record, last.row, field])) as Entry | null;
      return entry ? show(entry.value, factsOf(step, [record, "r1", field]).quantity, system) : "";
    })
    .filter(Boolean);
  return (
    <>
      {said.join(", ")} at {clock(last.at)}
    </>
  );
}
