import type { StepResult } from "../../../api/types.ts";
import { at, pathOf, useJob } from "../../../job/context.ts";

export const STEP = "recover" as const;

export const figureOf = (result: StepResult, id: string) => result.figures.find((f) => f.id === id);

export function useValue(key: string): unknown {
  const { answer, drafts } = useJob();
  const path = pathOf(answer.job, STEP, [key]);
  return drafts[path] ? drafts[path].value : at(answer.job, path);
}
