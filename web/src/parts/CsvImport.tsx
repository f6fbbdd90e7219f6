import { useRef, useState } from "react";
import { Refused } from "../api/client.ts";
import { NotDone, stop, type Task } from "../api/tasks.ts";
import type { Report } from "../api/types.ts";
import { Dialog } from "../ui/Dialog.tsx";

/** A CSV file taken as a whole or not at all, with a line for each row that is wrong. A task that does it is followed, and can be stopped. */
export function CsvImport({
  title,
  columns,
  write,
  done,
}: {
  title: string;
  columns: string;
  write: (text: string, far: (task: Task) => void) => Promise<Report>;
  done: () => void;
}) {
  const [open, setOpen] = useState(false);
  const [report, setReport] = useState<Report | null>(null);
  const [refused, setRefused] = useState("");
  const [task, setTask] = useState<Task | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const read = async (chosen: File | undefined) => {
    if (!chosen) return;
    setReport(null);
    setRefused("");
    try {
      const answer = await write(await chosen.text(), setTask);
      setReport(answer);
      if (answer.written) done();
    } catch (error) {
      setRefused(
        error instanceof Refused || error instanceof NotDone
          ? error.message
          : "No answer from the server. Nothing was written; try again.",
      );
    } finally {
      setTask(null);
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
      {task && (
        <div className="mt-3 flex items-center gap-3" aria-live="polite">
          <progress
            className="h-[10px] flex-1 appearance-none border border-rule [&::-webkit-progress-bar]:bg-sheet [&::-webkit-progress-value]:bg-copper"
            aria-label="how far it is"
            max={1}
            value={task.progress}
          />
          <span className="text-[14px]">{task.state === "waiting" ? "waits its turn" : "is checked and written"}</span>
          <button type="button" className="btn" onClick={() => void stop(task)}>
            Stop it
          </button>
        </div>
      )}
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
                Row {row.row ?? n + 1}, <b>{row.label}</b>: {row.problem || "fine"}
              </li>
            ))}
          </ul>
        </div>
      )}
    </Dialog>
  );
}
