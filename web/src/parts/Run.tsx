import { type MouseEvent, startTransition, useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { stepsOf } from "../api/fields.ts";
import type { StepResult, System } from "../api/types.ts";
import { fill } from "../format/message.ts";
import { Shape } from "./shapes.tsx";

const MANY = 10;

/** The job's steps as one pipe run with its fittings; under each name the one figure it produced. */
export function Run({ kind, steps, current: shown, system, base }: RunProps) {
  const { current, go } = useGoing(shown, base);
  return (
    <nav aria-label="Steps of this job">
      <ol className="hidden md:block">
        {stepsOf(kind).map(({ id, label }, n, all) => {
          const result = steps.find((s) => s.step === id);
          const now = id === current;
          return (
            <li key={id} className={`relative ${all.length > MANY ? "min-h-[54px]" : "min-h-[62px]"}`}>
              {n < all.length - 1 && (
                <span
                  aria-hidden="true"
                  className="absolute top-[26px] left-[9px] h-[calc(100%-16px)] w-[6px] border-x-[1.3px]"
                  style={{ borderColor: isDone(result) ? "var(--line)" : "var(--rule)" }}
                />
              )}
              <Link
                to={`${base}/${id}`}
                onClick={go(id)}
                className="flex min-h-[50px] gap-[10px] py-1"
                aria-current={now ? "step" : undefined}
              >
                <Fitting result={result} now={now} />
                <span className="min-w-0">
                  <span
                    className={`block ${now ? "text-[16px] font-semibold text-copper" : "text-[15px] font-semibold"}`}
                  >
                    {label}
                  </span>
                  <span className="block text-[14px] leading-[18px] break-words text-soft">
                    {result ? fill(result.summary, system) : ""}
                    {result?.state === "changed" && <b className="text-wait"> · changed since closing</b>}
                  </span>
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
      <ol
        className="flex items-center gap-1 overflow-x-auto md:hidden"
        ref={(list) => list?.querySelector("[aria-current]")?.scrollIntoView?.({ block: "nearest", inline: "center" })}
      >
        {stepsOf(kind).map(({ id, label }) => {
          const result = steps.find((s) => s.step === id);
          const now = id === current;
          return (
            <li key={id}>
              <Link
                to={`${base}/${id}`}
                onClick={go(id)}
                aria-label={label}
                aria-current={now ? "step" : undefined}
                className="flex min-h-[44px] min-w-[44px] items-center justify-center gap-2 whitespace-nowrap"
              >
                <Fitting result={result} now={now} />
                {now && <span className="text-[16px] font-semibold text-copper">{label}</span>}
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

/** The step that was pressed is marked at once; its sheet, which takes longer to draw, follows. */
function useGoing(shown: string, base: string) {
  const navigate = useNavigate();
  const [going, setGoing] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: arrived, wherever it was going
  useEffect(() => setGoing(null), [shown]);
  const go = (id: string) => (event: MouseEvent) => {
    if (event.button !== 0 || event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) return;
    event.preventDefault();
    if (id !== shown) setGoing(id);
    startTransition(() => void navigate(`${base}/${id}`));
  };
  return { current: going ?? shown, go };
}

type RunProps = { kind: string; steps: StepResult[]; current: string; system: System; base: string };

function isDone(result: StepResult | undefined): boolean {
  return result?.state === "closed" || result?.state === "not_applicable";
}

function Fitting({ result, now }: { result: StepResult | undefined; now: boolean }) {
  if (result && isDone(result) && result.verdict.word !== "Holds")
    return <Shape word={result.verdict.word} size={22} />;
  const done = isDone(result);
  const colour = now ? "var(--copper)" : done ? "var(--line)" : "var(--edge)";
  return (
    <svg width="24" height="20" viewBox="0 0 24 20" aria-hidden="true" className="mt-[1px] shrink-0">
      {done || now ? (
        <path d="M7.5 2.5h9l5 7.5-5 7.5h-9l-5-7.5z" fill={done ? colour : "none"} stroke={colour} strokeWidth="2" />
      ) : (
        <rect x="3" y="5.5" width="18" height="9" rx="2.5" fill="none" stroke={colour} strokeWidth="1.3" />
      )}
    </svg>
  );
}
