/** What a step still needs: each a way to its field, and what belongs to another step answered here. */

import { Fragment } from "react";
import type { StepName } from "../../api/fields.ts";
import { AnyField, fieldAt } from "../../fields/AnyField.tsx";
import { worded } from "../../format/message.ts";
import { useJob, useStep } from "../../job/context.ts";

export function StillOpen({ step }: { step: StepName }) {
  const { missing } = useStep(step);
  const { system } = useJob();
  const elsewhere = missing.filter((m) => {
    const found = fieldAt(m.path);
    return found !== null && found.step !== step;
  });
  return (
    <div className="w-full">
      <p className="text-[14px] text-soft" data-testid="missing">
        Still needed:{" "}
        {missing.map((m, n) => (
          <Fragment key={m.path + worded(m.label, system)}>
            {n > 0 && ", "}
            <button
              type="button"
              className="inline-block min-h-[44px] min-w-[44px] text-left underline decoration-dotted underline-offset-4"
              onClick={() => goTo(m.path)}
            >
              {worded(m.label, system)}
            </button>
          </Fragment>
        ))}
      </p>
      {elsewhere.length > 0 && (
        <div className="max-w-[520px] border-l-4 border-[var(--edge)] pl-3" data-testid="asked-elsewhere">
          {elsewhere.map((m) => (
            <AnyField key={m.path} path={m.path} />
          ))}
        </div>
      )}
    </div>
  );
}

/** Bring the field into view, its folded-away part opened, and put the cursor in it. */
function goTo(path: string): void {
  const keys = (path.split("/sheet/")[1] ?? "").split("/");
  const place =
    document.querySelector(`[data-field="${CSS.escape(keys.join("."))}"]`) ??
    document.querySelector(`[data-field^="${CSS.escape(keys[0] ?? "")}"]`);
  if (!place) return;
  for (let fold = place.closest("details"); fold; fold = fold.parentElement?.closest("details") ?? null)
    fold.open = true;
  place.scrollIntoView({ block: "center" });
  place.querySelector<HTMLElement>("input, select, textarea")?.focus();
}
