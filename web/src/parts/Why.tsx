import type { ReactNode } from "react";
import forms from "../api/forms.gen.json";
import type { Figure, System, Why as WhyData } from "../api/types.ts";
import { fill, worded } from "../format/message.ts";
import { show, showAmount } from "../format/quantity.ts";
import { Dialog } from "../ui/Dialog.tsx";

const RULES: Record<string, { text: string }> = { ...forms.rules, ...forms.choices };

/** Opens the formula of a figure with this job's own numbers, its source, rule and school. */
export function Why({
  figure,
  system,
  children,
  className = "btn quiet",
}: {
  figure: Figure;
  system: System;
  children?: ReactNode;
  className?: string;
}) {
  return (
    <Dialog
      title={`Why ${showAmount(figure.amount, system)}`}
      trigger={
        <button
          type="button"
          className={className}
          aria-label={children ? undefined : `Why ${worded(figure.label, system)}`}
        >
          {children ?? "Why"}
        </button>
      }
    >
      <p className="lab mb-3">{worded(figure.label, system)}</p>
      <Formula why={figure.why} system={system} />
    </Dialog>
  );
}

function Formula({ why, system }: { why: WhyData; system: System }) {
  return (
    <div>
      {why.terms.map((row) => (
        <div
          key={row.map((term) => term.op + worded(term.label, system)).join()}
          className="flex flex-wrap items-start gap-x-3 gap-y-2 border-t border-rule py-3 first:border-t-0"
        >
          {row.map((term) => (
            <span key={term.op + worded(term.label, system)} className="flex items-start gap-3">
              {term.op && <span className="text-[18px] text-soft">{term.op}</span>}
              <span>
                <span className="num block text-[18px]">{show(term.amount.value, term.amount.quantity, system)}</span>
                <span className="lab">{worded(term.label, system)}</span>
              </span>
            </span>
          ))}
        </div>
      ))}
      <dl className="mt-2 grid grid-cols-[74px_1fr] gap-y-2 border-t border-rule pt-3 text-[14px]">
        {why.notes.map((note) => (
          <div key={note.text} className="contents">
            <dt className="font-semibold">Note</dt>
            <dd>{fill(note, system)}</dd>
          </div>
        ))}
        <dt className="font-semibold">Source</dt>
        <dd>{why.source}</dd>
        <dt className="font-semibold">Rule</dt>
        <dd>
          {RULES[why.rule_id]?.text ?? why.rule_id} <span className="text-soft">({why.rule_id})</span>
        </dd>
        {why.school && (
          <>
            <dt className="font-semibold">School</dt>
            <dd>{why.school}</dd>
          </>
        )}
      </dl>
    </div>
  );
}
