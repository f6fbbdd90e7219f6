/** Entries: what a person types, with how it was read, what is wrong with it, and a second value if two stand. */
import { type ReactNode, useId, useRef, useState } from "react";
import { factsOf, type StepName, unitsOf } from "../api/fields.ts";
import type { Entry, Question } from "../api/types.ts";
import { at, pathOf, useIsClosed, useJob } from "../features/job/context.ts";
import { fill, otherFaces, show } from "../format/quantity.ts";
import { DisputeNote } from "./Dispute.tsx";

type Props = { step: StepName; keys: string[]; label?: string; hint?: string; className?: string };
type Typed = { text: string; unit?: string };

/** Everything a field shows: the draft over the stored value over the circuit's copy. */
function useField({ step, keys }: Props) {
  const job = useJob();
  const path = pathOf(job.answer.job, step, keys);
  const stored = at(job.answer.job, path);
  const fromCircuit = step === "identify" ? at(job.answer.job, `/circuit/plate/${keys.join("/")}`) : null;
  const draft = job.drafts[path];
  const facts = factsOf(step, keys);
  const closed = useIsClosed(step);
  const problem = job.problems[path];
  const question = job.findings.steps.flatMap((s) => s.questions).find((q) => q.path === path);
  return { job, path, stored, fromCircuit, draft, facts, closed, problem, question };
}

/** A figure with its unit. */
export function EntryField(props: Props) {
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
      {focused && facts.quantity === "mass" && (
        <MassKeys onKey={(key) => appendKey(input.current, key, (next) => type(next))} />
      )}
      <div id={`${id}-said`} className="mb-1 min-h-[19px] text-[13px] leading-[17px]">
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

function appendKey(input: HTMLInputElement | null, key: string, change: (text: string) => void): void {
  if (!input) return;
  const text = input.value.replace(/\s*(lb|oz|kg|g)\s*$/, "");
  const both = key === "oz" && /lb\s*[\d.]+$/.test(text);
  change(both || key !== "oz" ? `${text.trim()} ${key} ` : `${text.replace(/[a-z]/gi, "").trim()} ${key}`);
  input.focus();
}

/** Unit keys for a thumb: a phone's number pad has no letters. */
function MassKeys({ onKey }: { onKey: (key: string) => void }) {
  return (
    <div className="mt-1 flex gap-1 md:hidden">
      {["lb", "oz", "kg", "g"].map((key) => (
        <button
          key={key}
          type="button"
          tabIndex={-1}
          className="min-h-[44px] flex-1 rounded-[3px] border border-[var(--edge)] bg-paper text-[16px] font-semibold"
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => onKey(key)}
        >
          {key}
        </button>
      ))}
    </div>
  );
}

function Said(props: {
  path: string;
  facts: string;
  entry: Entry | null;
  copied: Entry | null;
  typing: boolean;
  hint?: string;
}): ReactNode {
  const { echoes, system } = useJob();
  const echo = echoes[props.path];
  if (echo && props.typing) {
    return (
      <>
        <span className="text-ink">read as {echo.also.join(", ")}</span>
        {echo.is_not && <span className="block text-soft">{echo.is_not}</span>}
      </>
    );
  }
  if (props.entry && props.facts === "mass") {
    const typedUnit =
      props.entry.unit === "lb oz" || props.entry.unit === "kg" ? (props.entry.unit === "kg" ? "si" : "us") : null;
    const faces = otherFaces(props.entry.value, typedUnit === "si" ? "si" : "us");
    const shown =
      props.entry.unit === "lb" || props.entry.unit === "oz"
        ? [show(props.entry.value, "mass", "us"), ...faces]
        : faces;
    return (
      <span className="text-soft">
        ={" "}
        {shown
          .filter((face, n, all) => all.indexOf(face) === n && face.replace(".0 ", " ") !== props.entry?.text)
          .slice(0, 3)
          .join(" = ")}
      </span>
    );
  }
  if (
    props.entry &&
    ["length", "temperature", "gauge_pressure", "tube_od", "temperature_delta"].includes(props.facts)
  ) {
    const us = show(props.entry.value, props.facts, "us");
    const other =
      us.endsWith(props.entry.unit ?? "") || system === "si" ? show(props.entry.value, props.facts, "si") : us;
    return <span className="text-soft">{other}</span>;
  }
  if (!props.entry && props.copied) return <span className="text-soft">on record</span>;
  return props.hint ? <span className="text-soft">{props.hint}</span> : null;
}

/** An unlikely entry, asked about once. */
export function Asked({ question, path }: { question: Question; path: string }) {
  const { type, system } = useJob();
  const answersPath = `${path.split("/sheet/")[0]}/answers/${question.id.replaceAll("~", "~0").replaceAll("/", "~1")}`;
  return (
    <div className="note mt-1" role="alert">
      <p>{fill(question.message, system)}</p>
      <p className="mt-2 flex flex-wrap gap-2">
        {question.suggestion && (
          <button
            type="button"
            className="btn go"
            onClick={() => type(path, { text: question.suggestion }, { ready: true })}
          >
            Use {question.suggestion}
          </button>
        )}
        <button type="button" className="btn" onClick={() => type(answersPath, "kept", { ready: true })}>
          It is right, keep it
        </button>
      </p>
    </div>
  );
}

/** A choice among named options. */
export function ChoiceField(props: Props) {
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

/** Words. `list` offers completions. */
export function TextField(props: Props & { list?: string[]; long?: boolean }) {
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
        <input {...shared} list={props.list ? `${id}-list` : undefined} autoComplete="off" spellCheck={false} />
      )}
      {props.list && (
        <datalist id={`${id}-list`}>
          {props.list.map((item) => (
            <option key={item} value={item} />
          ))}
        </datalist>
      )}
      <div className="mb-1 min-h-[19px] text-[13px] text-soft">
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

/** Yes or no, or not said yet; two buttons of the same weight. */
export function YesNoField(props: Props & { yes?: string; no?: string }) {
  const { job, path, stored, fromCircuit, draft, facts, closed } = useField(props);
  const value = draft
    ? (draft.value as boolean | null)
    : ((stored as boolean | null) ?? (fromCircuit as boolean | null));
  const id = useId();
  return (
    <fieldset
      className={`${props.className ?? ""} flex items-center justify-between gap-3 border-t border-rule py-1`}
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
