import type { System } from "../../api/types.ts";
import { show } from "../../format/quantity.ts";
import type { Choice, Rule } from "./rules.ts";

export function School(props: {
  id: string;
  choice: Choice;
  value: string;
  disabled: boolean;
  onChange: (school: string) => void;
}) {
  const { id, choice } = props;
  return (
    <fieldset className="mt-4 border-t border-rule pt-2" disabled={props.disabled}>
      <legend className="sr-only">{choice.text}</legend>
      <p className="text-[15px] font-semibold" aria-hidden="true">
        {choice.text}
      </p>
      {Object.entries(choice.options).map(([school, text]) => (
        <label key={school} className="flex min-h-[44px] cursor-pointer items-center gap-3 text-[15px]">
          <input
            type="radio"
            className="size-5 accent-[var(--copper)]"
            name={id}
            checked={props.value === school}
            onChange={() => props.onChange(school)}
          />
          {text}
          {school === choice.default && <span className="text-[14px] text-soft">Yoshi's default</span>}
        </label>
      ))}
      <p className="text-[14px] text-soft">{choice.reason}</p>
    </fieldset>
  );
}

export function Threshold(props: {
  id: string;
  rule: Rule;
  own: number | undefined;
  text: string | undefined;
  system: System;
  disabled: boolean;
  onChange: (text: string) => void;
}) {
  const { id, rule, own, system } = props;
  const shown = show(own ?? rule.default, rule.quantity, system);
  return (
    <div className="grid items-baseline gap-x-5 border-b border-rule py-1 md:grid-cols-[minmax(0,1fr)_150px_minmax(0,1fr)]">
      <label className="text-[15px]" htmlFor={`rule-${id}`}>
        {rule.text}
      </label>
      <input
        id={`rule-${id}`}
        className="control"
        style={{ fontSize: 18 }}
        autoComplete="off"
        readOnly={props.disabled}
        placeholder={shown}
        value={props.text ?? (own === undefined ? "" : shown)}
        onChange={(event) => props.onChange(event.target.value)}
        aria-describedby={`said-${id}`}
      />
      <p id={`said-${id}`} className="text-[14px] text-soft">
        {own === undefined
          ? rule.source
          : `ours; delivered as ${show(rule.default, rule.quantity, system)}, ${rule.source}`}
        . From {show(rule.low, rule.quantity, system)} to {show(rule.high, rule.quantity, system)}.
      </p>
    </div>
  );
}
