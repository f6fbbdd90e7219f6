import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { nextKey } from "../../../fields/Readings.tsx";
import { show } from "../../../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows } from "../../../job/context.ts";
import { chargedOf } from "../../job/change.ts";
import { FromTheBook, inKg } from "../../job/FromTheBook.tsx";
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
      <EntryField step={STEP} keys={[RECORD, id, "label_net"]} hint="for planning, not for proof" />
      <EntryField step={STEP} keys={[RECORD, id, "residue"]} />
      <EntryField step={STEP} keys={[RECORD, id, "gross_start"]} hint="with the can on it" />
      <EntryField step={STEP} keys={[RECORD, id, "gross_end"]} hint="when it is empty, or enough" />
    </div>
  );
}

function CylinderFields({ id }: { id: string }) {
  const { answer, system } = useJob();
  useHolds(STEP, [RECORD, id]);
  const read = (field: string) => at(answer.job, pathOf(answer.job, STEP, [RECORD, id, field]));
  const known = ["contents", "residue", "water_capacity"].some((field) => read(field) != null);
  return (
    <>
      <FromTheBook
        step={STEP}
        record={RECORD}
        ask={{ refrigerant: chargedOf(answer.job) ?? "" }}
        id={id}
        fits={(book) => book.refrigerant === chargedOf(answer.job) && book.account.net_kg > 0.005}
        describe={(book) =>
          `${book.kind === "recovery" ? "recovered" : "new"} · ${show(book.account.net_kg, "mass", system)}`
        }
        more={(book) => ({
          contents: book.kind === "recovery" ? "recovered" : "new",
          book_gross: inKg(book.account.gross_kg),
        })}
      />
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <TextField step={STEP} keys={[RECORD, id, "cylinder"]} hint="number or name on it" />
        <EntryField step={STEP} keys={[RECORD, id, "gross_start"]} />
        <EntryField step={STEP} keys={[RECORD, id, "tare"]} how hint="stamped TW, or weighed empty" />
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
          New or recovered, a can, what is left in it
        </summary>
        <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
          <ChoiceField step={STEP} keys={[RECORD, id, "contents"]} />
          <EntryField step={STEP} keys={[RECORD, id, "water_capacity"]} hint="stamped WC" />
          <EntryField step={STEP} keys={[RECORD, id, "label_net"]} hint="of a can" />
          <EntryField step={STEP} keys={[RECORD, id, "residue"]} hint="if known; if empty, its usual heel" />
          <YesNoField step={STEP} keys={[RECORD, id, "vapour_too"]} />
        </div>
      </details>
    </>
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
