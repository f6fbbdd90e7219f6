import { useId } from "react";
import { DisputeNote } from "./Dispute.tsx";
import { type FieldProps, useField } from "./useField.ts";

/** A choice among named options. */
export function ChoiceField(props: FieldProps) {
  const { job, path, stored, fromCircuit, draft, facts, closed } = useField(props);
  const id = useId();
  const value = draft
    ? ((draft.value as string | null) ?? "")
    : ((stored as string | null) ?? (fromCircuit as string | null) ?? "");
  return (
    <div className={props.className} data-field={props.keys.join(".")}>
      <label className="lab block" htmlFor={id}>
        {props.label ?? facts.label}
      </label>
      <select
        id={id}
        className="control"
        value={value}
        disabled={closed}
        onChange={(event) => job.type(path, event.target.value || null, { ready: true })}
      >
        <option value="">—</option>
        {Object.entries(facts.options ?? {}).map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
      <div className="mb-1 min-h-[19px] text-[13px] text-soft">{props.hint}</div>
      <DisputeNote path={path} />
    </div>
  );
}
