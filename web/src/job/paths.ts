/** How the number of a job begins that belongs to a practice run: it is worked on at the run's bench. */
const PRACTICE = "practice-";

/** The run a job belongs to; null for a job of the shop. */
export const runOf = (code: string): string | null => (code.startsWith(PRACTICE) ? code.slice(PRACTICE.length) : null);

/** Where a job is worked on, at one of its steps. */
export function jobPath(code: string, step = ""): string {
  const run = runOf(code);
  const base = run ? `/practice/${run}` : `/job/${code}`;
  return step ? `${base}/${step}` : base;
}
