/** Whether this page stands at the practice bench: then what it asks is asked of the run's own books, by the run's own clock. */
import { goBy } from "./time.ts";

let run: string | null = null;

/** The run whose books are asked; null at work. */
export const practising = (): string | null => run;

/** A practice clock as the server said it last: `ms` of practice time at `count` of `performance.now()`, and how fast it goes. */
export type PracticeClock = { ms: number; count: number; speed: number };

/** It runs on at most so long without a word of the server: it may have been stopped. */
const LONGEST_MS = 3_000;

/** What the practice clock shows now. */
const practiceMs = (clock: PracticeClock): number =>
  clock.ms + Math.min(performance.now() - clock.count, LONGEST_MS) * clock.speed;

let pace = 1;

/** How many seconds pass in one: more than one only at a practice bench. */
export const fastBy = (): number => pace;

/** Stand at a run's bench, or leave it. */
export function practise(code: string | null, clock: PracticeClock | null = null): void {
  run = code;
  pace = Math.max(clock?.speed ?? 1, 1);
  goBy(code && clock ? () => practiceMs(clock) : null);
}
