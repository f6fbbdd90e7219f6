import { fill } from "../../../format/message.ts";
import { at, pathOf, useIsClosed, useJob, useStep } from "../../../job/context.ts";

const STEP = "close_out" as const;

/** How the job may close now; a way that is barred says by what. */
export function Ways() {
  const { answer, drafts, system, type } = useJob();
  const closed = useIsClosed(STEP);
  const { ways } = useStep(STEP).picture;
  const path = pathOf(answer.job, STEP, ["outcome"]);
  const chosen = drafts[path] ? drafts[path].value : at(answer.job, path);
  return (
    <fieldset disabled={closed} data-field="outcome">
      <legend className="lab">How it closes</legend>
      <div className="grid">
        {ways.map((way) => (
          <label
            key={way.id}
            className={`flex min-h-[44px] gap-3 border-t border-rule px-2 py-2 ${way.open ? "cursor-pointer" : "text-soft"} has-checked:bg-tint`}
          >
            <input
              type="radio"
              name="outcome"
              value={way.id}
              className="mt-1 accent-[var(--copper)]"
              checked={chosen === way.id}
              disabled={!way.open && chosen !== way.id}
              onChange={() => type(path, way.id, { ready: true })}
            />
            <span>
              <b className="block text-[16px]">{way.label}</b>
              <span className="text-[14px] text-soft">{fill(way.words, system)}</span>
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
