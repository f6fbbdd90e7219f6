import { useId } from "react";
import { fill } from "../format/message.ts";
import { Asked } from "./Asked.tsx";
import { DisputeNote } from "./Dispute.tsx";
import { type FieldProps, useField } from "./useField.ts";

/** Words. `list` offers completions. */
export function TextField(props: FieldProps & { list?: string[]; long?: boolean }) {
  const { job, path, stored, fromCircuit, draft, facts, closed, problem, question } = useField(props);
  const id = useId();
  const value = draft ? ((draft.value as string | null) ?? "") : ((stored as string | null) ?? "");
  const shared = {
    id,
    className: "control",
    value,
    disabled: closed,
    maxLength: facts.maxLength,
    placeholder: (fromCircuit as string | null) ?? "",
    onChange: (event: { target: { value: string } }) => job.type(path, event.target.value || null),
    onBlur: () => job.commit(path),
  };
  return (
    <div className={props.className} data-field={props.keys.join(".")}>
      <label className="lab block" htmlFor={id}>
        {props.label ?? facts.label}
      </label>
      {props.long ? (
        <textarea {...shared} rows={3} style={{ fontSize: 15, fontWeight: 450, fontStretch: "100%" }} />
      ) : (
        <input
          {...shared}
          list={props.list ? `${id}-list` : undefined}
          autoComplete="off"
          enterKeyHint="next"
          spellCheck={false}
        />
      )}
      {props.list && (
        <datalist id={`${id}-list`}>
          {props.list.map((item) => (
            <option key={item} value={item} />
          ))}
        </datalist>
      )}
      <div className="mb-1 min-h-[19px] text-[14px] text-soft">
        {problem ? (
          <p className="font-medium text-stop" role="alert">
            {fill(problem.message, job.system)}
          </p>
        ) : (
          props.hint
        )}
      </div>
      {question && <Asked question={question} path={path} />}
      <DisputeNote path={path} />
    </div>
  );
}
