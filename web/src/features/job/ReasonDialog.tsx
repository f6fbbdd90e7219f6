import { useState } from "react";
import { WhyNot } from "../../parts/WhyNot.tsx";
import { Dialog } from "../../ui/Dialog.tsx";

export function ReasonDialog(props: {
  open: boolean;
  title: string;
  again: boolean;
  go: string;
  usual: string[];
  busy: boolean;
  refused: string;
  onCancel: () => void;
  onGo: (reason: string, newRun: boolean) => void;
}) {
  const [reason, setReason] = useState("");
  return (
    <Dialog open={props.open} onOpenChange={(open) => !open && props.onCancel()} title={props.title}>
      <label className="lab block" htmlFor="reason">
        Reason, kept in the record
      </label>
      <textarea
        id="reason"
        className="control"
        rows={3}
        maxLength={500}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      {props.usual.length > 0 && (
        <p className="mt-2 flex flex-wrap gap-2">
          {props.usual.map((text) => (
            <button key={text} type="button" className="chip" onClick={() => setReason(text)}>
              {text}
            </button>
          ))}
        </p>
      )}
      {props.again && (
        <p className="mt-2 text-[14px] text-soft">
          The figures as closed stay in the record; the correction stands beside them.
        </p>
      )}
      {props.refused && (
        <p className="note stop mt-2" role="alert">
          {props.refused}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-3">
        <button
          type="button"
          className="btn go"
          disabled={!reason.trim() || props.busy}
          onClick={() => props.onGo(reason, false)}
        >
          {props.again ? "Open it again" : props.go}
        </button>
        {props.again && (
          <button
            type="button"
            className="btn"
            disabled={!reason.trim() || props.busy}
            onClick={() => props.onGo(reason, true)}
          >
            Do it over, keep the old run
          </button>
        )}
        <WhyNot unless={reason.trim() !== ""}>Say why first; it is kept in the record.</WhyNot>
      </div>
    </Dialog>
  );
}
