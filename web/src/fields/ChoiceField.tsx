import { useId } from "react";
import { useThumb } from "../ui/useWide.ts";
import { DisputeNote } from "./Dispute.tsx";
import { type FieldProps, useField } from "./useField.ts";

const MOST_WORDS = 180; // signs of all options together that a phone or a tablet shows as buttons, and not as a closed list

type Options = [string, string][];
type Shown = { id: string; label: string; options: Options; value: string; closed: boolean };

/** A choice among named options: under a thumb each its own button, so that one press answers. */
export function ChoiceField(props: FieldProps & { onChoose?: (value: string | null) => void }) {
  const { job, path, stored, fromCircuit, draft, facts, closed } = useField(props);
  const thumb = useThumb();
  const id = useId();
  const value = draft
    ? ((draft.value as string | null) ?? "")
    : ((stored as string | null) ?? (fromCircuit as string | null) ?? "");
  const options = Object.entries(facts.options ?? {});
  const label = props.label ?? facts.label;
  const choose = (next: string | null) => {
    job.type(path, next, { ready: true });
    props.onChoose?.(next);
  };
  const buttons = thumb && options.reduce((sum, [, text]) => sum + text.length, 0) <= MOST_WORDS;
  const shown = { id, label, options, value, closed };
  return (
    <div className={`${props.className ?? ""} ${buttons ? "col-span-full" : ""}`} data-field={props.keys.join(".")}>
      {buttons ? <Buttons {...shown} choose={choose} /> : <List {...shown} choose={choose} />}
      {(props.hint || !buttons) && <div className="mb-1 min-h-[19px] text-[14px] text-soft">{props.hint}</div>}
      <DisputeNote path={path} />
    </div>
  );
}

function List({ id, label, options, value, closed, choose }: Shown & { choose: (value: string | null) => void }) {
  return (
    <>
      <label className="lab block" htmlFor={id}>
        {label}
      </label>
      <select
        id={id}
        className="control"
        value={value}
        disabled={closed}
        onChange={(event) => choose(event.target.value || null)}
      >
        <option value="">—</option>
        {options.map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
    </>
  );
}

/** Pressed again, a choice is taken back. */
function Buttons({ id, label, options, value, closed, choose }: Shown & { choose: (value: string | null) => void }) {
  return (
    <fieldset disabled={closed} className="mb-2">
      <legend className="lab">{label}</legend>
      <div className="mt-1 flex flex-wrap gap-[6px]">
        {options.map(([key, text]) => (
          <label key={key} className="pick">
            <input
              type="radio"
              className="sr-only"
              name={id}
              value={key}
              checked={value === key}
              onChange={() => choose(key)}
              onClick={() => value === key && choose(null)}
            />
            {text}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
