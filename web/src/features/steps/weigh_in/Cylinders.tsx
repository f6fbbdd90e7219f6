import { useQuery } from "@tanstack/react-query";
import { cylindersQuery } from "../../../api/queries.ts";
import type { BookRow } from "../../../api/types.ts";
import { ChoiceField, EntryField, TextField } from "../../../fields/index.ts";
import { nextKey } from "../../../fields/Readings.tsx";
import { show } from "../../../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows } from "../../../job/context.ts";
import { chargedOf } from "../../job/change.ts";
import { useHolds } from "../../job/useBook.ts";

const STEP = "weigh_in" as const;
const RECORD = "draws";
const ALIKE = ["contents", "label_net", "residue", "tare", "water_capacity", "hose_loss"];

/** Every cylinder and can the charge comes from, in the order they were written down. */
export function Cylinders() {
  const rows = useRows(STEP, RECORD, ["d1"]);
  return (
    <>
      {rows.map((key, n) => (
        <Cylinder key={key} id={key} number={rows.length > 1 ? n + 1 : 0} />
      ))}
      <Another rows={rows} />
    </>
  );
}

function Cylinder({ id, number }: { id: string; number: number }) {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  const read = (field: string) => at(answer.job, pathOf(answer.job, STEP, [RECORD, id, field]));
  const isCan = read("label_net") != null;
  const name = isCan ? "Can" : "Cylinder";
  return (
    <fieldset className="mt-3" data-draw={id}>
      <legend className="mb-1 flex min-h-[44px] w-full items-end justify-between border-b border-ink pb-1 text-[15px] font-semibold">
        {number ? `${name} ${number}` : "Cylinder on the scale"}
        {number > 1 && !closed && read("gross_end") == null && (
          <button
            type="button"
            className="btn quiet -mb-2"
            aria-label={`Not this one: ${name.toLowerCase()} ${number}`}
            onClick={() => type(pathOf(answer.job, STEP, [RECORD, id]), null, { ready: true, force: true })}
          >
            Not this one
          </button>
        )}
      </legend>
      {isCan ? <CanFields id={id} /> : <CylinderFields id={id} />}
    </fieldset>
  );
}

/** A can: its label plans, the scale before and after proves. */
function CanFields({ id }: { id: string }) {
  return (
    <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
      <EntryField step={STEP} keys={[RECORD, id, "label_net"]} hint="plans, proves nothing" />
      <EntryField step={STEP} keys={[RECORD, id, "residue"]} />
      <EntryField step={STEP} keys={[RECORD, id, "gross_start"]} hint="with the can on it" />
      <EntryField step={STEP} keys={[RECORD, id, "gross_end"]} hint="when it is empty, or enough" />
    </div>
  );
}

function CylinderFields({ id }: { id: string }) {
  const { answer } = useJob();
  useHolds(STEP, [RECORD, id]);
  const read = (field: string) => at(answer.job, pathOf(answer.job, STEP, [RECORD, id, field]));
  const known = ["contents", "residue", "water_capacity"].some((field) => read(field) != null);
  return (
    <>
      <FromTheBook id={id} />
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <TextField step={STEP} keys={[RECORD, id, "cylinder"]} hint="number or name on it" />
        <EntryField step={STEP} keys={[RECORD, id, "gross_start"]} />
        <EntryField step={STEP} keys={[RECORD, id, "tare"]} hint="stamped TW, or weighed empty" />
        <EntryField step={STEP} keys={[RECORD, id, "hose_loss"]} hint="0 if the hose stays full" />
      </div>
      <EntryField
        step={STEP}
        keys={[RECORD, id, "gross_end"]}
        hint="gross, valve shut, still on the scale"
        className="max-w-[420px]"
      />
      <details open={known || undefined}>
        <summary className="min-h-[44px] cursor-pointer py-3 text-[14px] text-soft">
          What it is: new or recovered, a can, what stays in it
        </summary>
        <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
          <ChoiceField step={STEP} keys={[RECORD, id, "contents"]} />
          <EntryField step={STEP} keys={[RECORD, id, "water_capacity"]} hint="stamped WC: gives its heel" />
          <EntryField step={STEP} keys={[RECORD, id, "label_net"]} hint="of a can" />
          <EntryField step={STEP} keys={[RECORD, id, "residue"]} hint="if known; else its heel" />
        </div>
      </details>
    </>
  );
}

/** What the shop's book says of a cylinder goes into its fields. */
function FromTheBook({ id }: { id: string }) {
  const { answer, type, system } = useJob();
  const closed = useIsClosed(STEP);
  const { data } = useQuery(cylindersQuery);
  const path = (field: string) => pathOf(answer.job, STEP, [RECORD, id, field]);
  const wanted = chargedOf(answer.job);
  const fit = (data?.data ?? []).filter((row) => row.refrigerant === wanted && row.account.net_kg > 0.005);
  if (closed || !fit.length) return null;
  const take = (book: BookRow | undefined) => {
    if (!book) return;
    const put = (field: string, value: unknown) => type(path(field), value, { ready: true, force: true });
    put("cylinder", book.code);
    put("contents", book.kind === "recovery" ? "recovered" : "new");
    put("tare", { text: book.tare_text, unit: "lb" });
    put("book_gross", { text: book.account.gross_kg.toFixed(4), unit: "kg" });
    if (book.water_capacity_kg) put("water_capacity", { text: book.water_capacity_kg.toFixed(4), unit: "kg" });
  };
  const known = String(at(answer.job, path("cylinder")) ?? "");
  return (
    <label className="mb-1 flex max-w-[420px] items-center gap-3 text-[14px] text-soft">
      from the book
      <select
        className="control"
        value={fit.some((row) => row.code === known) ? known : ""}
        onChange={(event) => take(fit.find((row) => row.code === event.target.value))}
      >
        <option value="">not in the book</option>
        {fit.map((row) => (
          <option key={row.code} value={row.code}>
            {row.code} · {row.kind === "recovery" ? "recovered" : "new"} · {show(row.account.net_kg, "mass", system)}
          </option>
        ))}
      </select>
    </label>
  );
}

/** One more, or one more just like the last: cans and drums come in rows. */
function Another({ rows }: { rows: string[] }) {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  if (closed) return null;
  const last = at(answer.job, pathOf(answer.job, STEP, [RECORD, rows[rows.length - 1] ?? "d1"])) as Record<
    string,
    unknown
  > | null;
  const alike = last ? Object.fromEntries(ALIKE.filter((field) => last[field] != null).map((f) => [f, last[f]])) : {};
  const add = (fields: Record<string, unknown>) =>
    type(pathOf(answer.job, STEP, [RECORD, nextKey(rows, "d")]), fields, { ready: true });
  return (
    <p className="mt-1 flex flex-wrap gap-2">
      <button type="button" className="btn quiet" onClick={() => add({})}>
        Another cylinder
      </button>
      {Object.keys(alike).length > 0 && (
        <button type="button" className="btn quiet" onClick={() => add(alike)}>
          Another like it
        </button>
      )}
    </p>
  );
}
