import type { BookRow } from "../../../api/types.ts";
import { ChoiceField, EntryField, TextField, YesNoField } from "../../../fields/index.ts";
import { show, showAmount } from "../../../format/quantity.ts";
import { at, pathOf, useIsClosed, useJob, useRows, useStep } from "../../../job/context.ts";
import { Remarks } from "../../../parts/Remarks.tsx";
import { FromTheBook } from "../../job/FromTheBook.tsx";
import { After } from "./After.tsx";
import { STEP, useValue } from "./shared.ts";

export function IntoCylinders() {
  const { system } = useJob();
  const rows = useRows(STEP, "cylinders", ["c1"]);
  const { picture } = useStep(STEP);
  const finished = useValue("finished") === true;
  return (
    <>
      {rows.map((key, n) => (
        <CylinderEntry key={key} id={key} number={n + 1} />
      ))}
      <AnotherCylinder rows={rows} />
      <div className="mt-2 grid gap-x-8 md:grid-cols-2">
        <div>
          <YesNoField step={STEP} keys={["fan_on"]} />
          <YesNoField step={STEP} keys={["valves_open"]} />
        </div>
        <div>
          <YesNoField step={STEP} keys={["compressor_runs"]} />
          <YesNoField step={STEP} keys={["oily"]} />
        </div>
      </div>
      <Remarks notes={picture.notes} system={system} />
      <YesNoField step={STEP} keys={["finished"]} className="mt-3 border-t-2 border-ink" />
      {finished && <After />}
    </>
  );
}

/** What the book says stands in it: nothing only where somebody pulled a vacuum on it, and the same only where its name is the same. */
function held(book: BookRow, refrigerant: unknown) {
  if (book.account.net_kg > 0.001 && !refrigerant) return {};
  if (book.account.net_kg > 0.001) return { contents: book.refrigerant === refrigerant ? "same" : "other" };
  return book.evacuated ? { contents: "evacuated" } : {};
}

function CylinderEntry({ id, number }: { id: string; number: number }) {
  const { answer, system } = useJob();
  const ofRecord = (answer.job as { circuit?: { plate?: { refrigerant?: string } } }).circuit?.plate?.refrigerant;
  const refrigerant = at(answer.job, pathOf(answer.job, "identify", ["refrigerant"])) ?? ofRecord;
  const row = useStep(STEP).picture.cylinders.find((c) => c.id === id);
  return (
    <fieldset className="mt-2">
      <legend className="mb-1 flex w-full items-center justify-between border-b border-ink pb-1 text-[15px] font-semibold">
        <span>{number === 1 ? "Cylinder on the scale" : `Cylinder ${number}`}</span>
        {row?.room && (
          <span className="text-[14px] font-normal">
            room <b>{showAmount(row.room, system)}</b>, stop at{" "}
            <b>{row.stop_gross ? showAmount(row.stop_gross, system) : "—"}</b>
          </span>
        )}
      </legend>
      <FromTheBook
        step={STEP}
        record="cylinders"
        ask={{ kind: "recovery" }}
        id={id}
        fits={(book) => book.kind === "recovery"}
        describe={(book) => {
          const room = book.account.room_kg === null ? "" : `room ${show(book.account.room_kg, "mass", system)}`;
          return [book.refrigerant || "empty", book.account.badge, room].filter(Boolean).join(" · ");
        }}
        more={(book) => ({
          ...held(book, refrigerant),
          ...(book.retest && { retest: book.retest }),
        })}
      />
      <div className="grid grid-cols-2 gap-x-5 lg:grid-cols-4">
        <TextField step={STEP} keys={["cylinders", id, "cylinder"]} hint="number or name on it" />
        <ChoiceField step={STEP} keys={["cylinders", id, "contents"]} />
        <EntryField step={STEP} keys={["cylinders", id, "tare"]} how hint="stamped TW" />
        <EntryField
          step={STEP}
          keys={["cylinders", id, "water_capacity"]}
          how
          hint="stamped WC; without it there is no fill limit"
        />
        <TextField step={STEP} keys={["cylinders", id, "retest"]} hint="2029-03" />
        <EntryField step={STEP} keys={["cylinders", id, "gross_start"]} />
        <EntryField
          step={STEP}
          keys={["cylinders", id, "gross_now"]}
          hint="gross, as it fills"
          className="col-span-2"
        />
      </div>
    </fieldset>
  );
}

function AnotherCylinder({ rows }: { rows: string[] }) {
  const { answer, type } = useJob();
  const closed = useIsClosed(STEP);
  const last = rows[rows.length - 1] ?? "c1";
  if (closed || at(answer.job, pathOf(answer.job, STEP, ["cylinders", last, "gross_start"])) === null) return null;
  return (
    <button
      type="button"
      className="btn quiet"
      onClick={() => type(pathOf(answer.job, STEP, ["cylinders", `c${rows.length + 1}`]), {}, { ready: true })}
    >
      Another cylinder
    </button>
  );
}
