import { useState } from "react";
import { client, newKey, take } from "../../api/client.ts";
import { reportOf } from "../../api/tasks.ts";
import { CsvImport } from "../../parts/CsvImport.tsx";
import { Field } from "../../parts/Field.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { Form, useBooking } from "./booking.tsx";

export function WeighAgain({ code, gross }: { code: string; gross: string }) {
  const [open, setOpen] = useState(false);
  const [reading, setReading] = useState("");
  const [reason, setReason] = useState("");
  const { send, refused, busy, wrong } = useBooking();
  const go = async () => {
    const params = { path: { code } };
    const done = await send((key) =>
      take(client.POST("/api/cylinders/{code}/weigh", { params, body: { key, gross: reading, reason } })),
    );
    if (done) {
      setOpen(false);
      setReading("");
      setReason("");
    }
  };
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title={`Weigh ${code}`}
      trigger={
        <button type="button" className="btn go">
          Weigh now
        </button>
      }
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <Form go="Book the reading" busy={busy} refused={refused.path ? "" : refused.text}>
          <p className="text-[15px]">
            By the book it reads <b>{gross}</b>. The scale counts; a difference is booked and named.
          </p>
          <Field
            label="the scale reads, gross"
            value={reading}
            problem={wrong("gross")}
            onChange={setReading}
            autoFocus
          />
          <Field
            label="why it differs"
            hint="only asked when it does"
            value={reason}
            problem={wrong("reason")}
            onChange={setReason}
          />
        </Form>
      </form>
    </Dialog>
  );
}

export function Prepare({ code }: { code: string }) {
  const { send, refused, busy } = useBooking();
  return (
    <>
      <button
        type="button"
        className="btn"
        disabled={busy}
        onClick={() =>
          void send((key) =>
            take(client.POST("/api/cylinders/{code}/prepare", { params: { path: { code } }, body: { key } })),
          )
        }
      >
        Evacuated and purged
      </button>
      {refused.text && (
        <p className="note stop w-full" role="alert">
          {refused.text}
        </p>
      )}
    </>
  );
}

/** The last line written by hand can be taken back: its reversal is a line of its own. */
export function TakeBack({ code, line }: { code: string; line: number }) {
  const { send, refused, busy } = useBooking();
  const params = { path: { code, line } };
  const go = () =>
    send((key) =>
      take(client.POST("/api/cylinders/{code}/lines/{line}/take-back", { params, body: { key, reason: "" } })),
    );
  return (
    <span className="block">
      <button type="button" className="btn quiet -ml-2" disabled={busy} onClick={() => void go()}>
        Undo this line
      </button>
      {refused.text && (
        <span className="note stop block" role="alert">
          {refused.text}
        </span>
      )}
    </span>
  );
}

export function ImportCylinders() {
  const { send } = useBooking();
  return (
    <CsvImport
      title="Cylinders from a CSV file"
      columns="code, kind, refrigerant, owner, tare, water_capacity, retest, gross, evacuated"
      write={(text, far) =>
        reportOf(take(client.POST("/api/cylinders/import", { body: { key: newKey(), text } })), far)
      }
      done={() => void send(async () => undefined)}
    />
  );
}
