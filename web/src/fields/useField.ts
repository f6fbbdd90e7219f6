/** What a field of a sheet stands on: its place in the job, what is stored, typed, wrong and asked. */
import { factsOf, type Where } from "../api/fields.ts";
import { at, pathOf, useIsAsked, useIsClosed, useJob } from "../job/context.ts";

export type FieldProps = { step: Where; keys: string[]; label?: string; hint?: string; className?: string };

/** Everything a field shows: the draft over the stored value over the circuit's copy. */
export function useField({ step, keys }: FieldProps) {
  const job = useJob();
  const path = pathOf(job.answer.job, step, keys);
  const stored = at(job.answer.job, path);
  const fromCircuit = step === "identify" ? at(job.answer.job, `/circuit/plate/${keys.join("/")}`) : null;
  const draft = job.drafts[path];
  const facts = factsOf(step, keys);
  const asked = useIsAsked(path);
  const closed = useIsClosed(step) && !asked;
  const problem = job.problems[path];
  const question = job.findings.steps.flatMap((s) => s.questions).find((q) => q.path === path);
  return { job, path, stored, fromCircuit, draft, facts, closed, problem, question };
}
