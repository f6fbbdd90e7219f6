import { useRef, useState } from "react";
import { Refused } from "../api/client.ts";
import { Dialog } from "../ui/Dialog.tsx";

type Report = { written: number; rows: { [key: string]: string }[] };

/** A CSV file taken as a whole or not at all, with a line for each row. */
export function CsvImport({
  title,
  columns,
  write,
  done,
}: {
  title: string;
  columns: string;
  write: (text: string) => Promise<Report>;
  done: () => void;
}) {
  const [open, setOpen] = useState(false);
  const [report, setReport] = useState<Report | null>(null);
  const [refused, setRefused] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const read = async (chosen: File | undefined) => {
    if (!chosen) return;
    setReport(null);
    setRefused("");
    try {
      const answer = await write(await chosen.text());
      setReport(answer);
      if (answer.written) done();
    } catch (error) {
      setRefused(
        error instanceof Refused ? error.message : "No answer from the server. Nothing was written; try again.",
      );
    }
  };
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={title}
      trigger={
        <button type="button" className="btn">
          From CSV
        </button>
      }
    >
      <p className="text-[15px]">
        The first line names the columns: {columns}. Nothing is written while one row is wrong.
      </p>
      <button type="button" className="btn go mt-3" onClick={() => file.current?.click()}>
        Choose the file
      </button>
      <input
        ref={file}
        type="file"
        aria-label={title}
        accept=".csv,text/csv"
        className="hidden"
        onChange={(event) => {
          void read(event.target.files?.[0]);
          event.target.value = "";
        }}
      />
      {refused && (
        <p className="note stop mt-3" role="alert">
          {refused}
        </p>
      )}
      {report && (
        <div className="mt-4" aria-live="polite">
          <p className={`note ${report.written ? "holds" : "stop"}`}>
            {report.written
              ? `${report.written} rows written.`
              : "Nothing was written: mend the rows below and choose the file again."}
          </p>
          <ul className="mt-2 text-[15px]">
            {report.rows.map((row, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows of a file, in its order
              <li key={`${n}-${row.label}`} className="border-t border-rule py-1">
                Row {n + 1}, <b>{row.label}</b>: {row.problem || "fine"}
              </li>
            ))}
          </ul>
        </div>
      )}
    </Dialog>
  );
}
