import { useId } from "react";

type Props = { label: string; value: string; onChange: (value: string) => void; hint?: string; problem?: string };

/** A plain field of a form that is sent as a whole; its problem stands under it. */
export function Field({
  label,
  value,
  onChange,
  hint,
  problem,
  type,
  autoFocus,
  autoComplete,
}: Props & { type?: string; autoFocus?: boolean; autoComplete?: string }) {
  const id = useId();
  return (
    <div>
      <label className="lab mt-2 block" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        className="control"
        type={type ?? "text"}
        value={value}
        autoComplete={autoComplete ?? "off"}
        spellCheck={false}
        // biome-ignore lint/a11y/noAutofocus: a dialog's first field, where its opener asked for it
        autoFocus={autoFocus}
        aria-invalid={problem ? true : undefined}
        aria-describedby={`${id}-said`}
        onChange={(event) => onChange(event.target.value)}
      />
      <Said id={`${id}-said`} hint={hint} problem={problem} />
    </div>
  );
}

/** A choice in such a form. */
export function Select({
  label,
  value,
  onChange,
  hint,
  problem,
  options,
}: Props & { options: Record<string, string> }) {
  const id = useId();
  return (
    <div>
      <label className="lab mt-2 block" htmlFor={id}>
        {label}
      </label>
      <select
        id={id}
        className="control"
        value={value}
        aria-invalid={problem ? true : undefined}
        aria-describedby={`${id}-said`}
        onChange={(event) => onChange(event.target.value)}
      >
        {Object.entries(options).map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
      <Said id={`${id}-said`} hint={hint} problem={problem} />
    </div>
  );
}

function Said({ id, hint, problem }: { id: string; hint?: string; problem?: string }) {
  return (
    <div id={id} className="min-h-[19px] text-[14px] leading-[17px] text-soft">
      {problem ? (
        <p className="font-medium text-stop" role="alert">
          {problem}
        </p>
      ) : (
        hint
      )}
    </div>
  );
}
