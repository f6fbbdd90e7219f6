/** A figure as a person types it, with how it was read, what is wrong with it, and a second value if two stand. */
import { useId, useRef, useState } from "react";
import { unitsOf } from "../api/fields.ts";
import type { Entry } from "../api/types.ts";
import { fill } from "../format/message.ts";
import { Asked } from "./Asked.tsx";
import { DisputeNote } from "./Dispute.tsx";
import { KeyRow } from "./KeyRow.tsx";
import { Known } from "./Known.tsx";
import { Said } from "./Said.tsx";
import { type FieldProps, useField } from "./useField.ts";

type Typed = { text: string; unit?: string };

/** A figure with its unit; `how` shows under it how it is known. */
export function EntryField(props: FieldProps & { how?: boolean }) {
  const { job, path, stored, fromCircuit, draft, facts, closed, problem, question } = useField(props);
  const [focused, setFocused] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const id = useId();
  const units = unitsOf(facts, job.system);
  const entry = stored as Entry | null;
  const copied = fromCircuit as Entry | null;
  const typed = draft ? (draft.value as Typed | null) : null;
  const text = draft ? (typed?.text ?? "") : (entry?.text ?? "");
  const unit = typed?.unit ?? units[0] ?? "";
  const bare = text !== "" && !/[a-z"'°#/%]/i.test(text);
  const type = (next: string, nextUnit = unit, ready = false) =>
    job.type(path, next.trim() ? { text: next, unit: nextUnit } : null, { ready });
  const showProblem = problem && (!focused || draft?.problem);
  const label = props.label ?? facts.label;
  return (
    <div className={props.className} data-field={props.keys.join(".")}>
      <label className={`lab block ${focused ? "text-copper" : ""}`} htmlFor={id}>
        {label}
      </label>
      <div className="relative">
        <input
          ref={input}
          id={id}
          className={`control ${bare || text === "" ? "pr-12" : ""}`}
          value={text}
          disabled={closed}
          inputMode={facts.quantity === "tube_od" ? "text" : "decimal"}
          autoComplete="off"
          enterKeyHint="next"
          spellCheck={false}
          placeholder={copied?.text ?? ""}
          aria-invalid={showProblem ? true : undefined}
          aria-describedby={`${id}-said`}
          onFocus={() => setFocused(true)}
          onBlur={() => {
            setFocused(false);
            job.commit(path);
          }}
          onChange={(event) => type(event.target.value)}
        />
        {(bare || text === "") && units.length > 0 && !closed && (
          <button
            type="button"
            tabIndex={-1}
            aria-label={`${label} in ${unit}, change the unit`}
            className="absolute right-0 bottom-0 min-h-[44px] min-w-[44px] px-2 text-right text-[15px] text-soft"
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => type(text, units[(units.indexOf(unit) + 1) % units.length], false)}
          >
            {unit}
          </button>
        )}
      </div>
      {focused && <KeyRow input={input.current} quantity={facts.quantity} change={type} />}
      {props.how && (
        <Known path={path} label={label} entry={draft ? null : entry} closed={closed} quantity={facts.quantity} />
      )}
      <div id={`${id}-said`} className="mb-1 min-h-[19px] text-[14px] leading-[17px]">
        <Said
          path={path}
          facts={facts.quantity}
          entry={entry}
          copied={copied}
          typing={Boolean(draft)}
          hint={props.hint}
        />
        {showProblem && (
          <p className="font-medium text-stop" role="alert">
            {fill(problem.message, job.system)}{" "}
            {draft && entry && (
              <button type="button" className="underline" onClick={() => job.drop(path)}>
                Back to {entry.text}
              </button>
            )}
          </p>
        )}
      </div>
      {question && !focused && <Asked question={question} path={path} />}
      <DisputeNote path={path} />
    </div>
  );
}
