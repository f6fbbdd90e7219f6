import { useId } from "react";
import { type FieldProps, useField } from "./useField.ts";

/** Yes or no, or not said yet; two buttons of the same weight. */
export function YesNoField(props: FieldProps & { yes?: string; no?: string }) {
  const { job, path, stored, fromCircuit, draft, facts, closed } = useField(props);
  const value = draft
    ? (draft.value as boolean | null)
    : ((stored as boolean | null) ?? (fromCircuit as boolean | null));
  const id = useId();
  return (
    <fieldset
      className={`${props.className ?? ""} flex flex-wrap items-center justify-between gap-x-3 gap-y-1 border-t border-rule py-1`}
      data-field={props.keys.join(".")}
    >
      <legend className="sr-only">{props.label ?? facts.label}</legend>
      <span aria-hidden="true" className="text-[15px]">
        {props.label ?? facts.label}
      </span>
      <span className="inline-flex shrink-0 overflow-hidden rounded-[4px] border-[1.3px] border-[var(--edge)]">
        {[true, false].map((choice) => (
          <label
            key={String(choice)}
            className="grid min-h-[44px] min-w-[58px] cursor-pointer place-items-center px-3 text-[15px] font-semibold has-checked:bg-ink has-checked:text-sheet has-focus-visible:outline-2 has-focus-visible:outline-copper"
          >
            <input
              type="radio"
              className="sr-only"
              name={id}
              checked={value === choice}
              disabled={closed}
              onChange={() => job.type(path, choice, { ready: true })}
            />
            {choice ? (props.yes ?? "Yes") : (props.no ?? "No")}
          </label>
        ))}
      </span>
    </fieldset>
  );
}
