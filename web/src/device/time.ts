/**
 * The time this device goes by. While a page is open it runs on by a counter that nobody sets, so that a wait stays as long as it is
 * when the device's clock is moved; and where the office's clock said something else than the device's, moments are the office's.
 */

/** A device's clock that is off by less is taken as it is: answers say their time to the second, and take some to come. */
const OFF_MS = 60_000;
/** What was heard before is kept unless what is heard now differs by more. */
const SAME_MS = 5_000;
/** A device that slept has a counter that slept with it. */
const SLEPT_MS = 2_000;
const KEY = "yoshi-clock-ahead";

let began = { wall: 0, count: 0 };
let aheadMs = 0;
let hidden = false;

/** The page is opened: it goes by the device's clock, and by what the office's said last. */
export function opened(): void {
  began = { wall: Date.now(), count: performance.now() };
  aheadMs = Number(localStorage.getItem(KEY)) || 0;
}
opened();

/** What the device's clock would show if nobody had set it since the page was opened. */
const shown = (): number => began.wall + (performance.now() - began.count);

/** By how much the device's clock is ahead of the office's, behind it below nought; nothing where they agree. */
export const ahead = (): number => (Math.abs(aheadMs) >= OFF_MS ? aheadMs : 0);

/** Now, by the office's clock as far as this device knows it. */
export const officeMs = (): number => Math.round(shown() - ahead());

let other: (() => number) | null = null;
/** Go by another clock than the office's: a practice run has its own. */
export const goBy = (clock: (() => number) | null): void => {
  other = clock;
};

/** Now, by the clock that what is on show goes by. */
export const nowMs = (): number => Math.round(other ? other() : officeMs());

/** A moment as the device's own clock shows it, where that is off; null where it is not. */
export const onDevice = (moment: number): number | null => (ahead() ? moment + ahead() : null);

/** An answer of the office said its time; it was asked and it came at these readings of `performance.now()`. */
export function heard(said: string | null, asked: number, came: number): void {
  const office = said ? Date.parse(said) + 500 : Number.NaN; // it leaves the parts of a second away
  if (!Number.isFinite(office) || came - asked > 20_000) return;
  const there = began.wall + ((asked + came) / 2 - began.count);
  const found = there - office;
  if (Math.abs(found - aheadMs) < SAME_MS) return;
  aheadMs = found;
  localStorage.setItem(KEY, String(Math.round(found)));
  for (const listener of listeners) listener();
}

const listeners = new Set<() => void>();
/** Told when the device's clock is found to be off, or not any more. */
export function whenFoundOff(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Back from behind another page or from sleep: the counter may have stood still, the clock did not. */
export function woke(visible: boolean): void {
  if (!visible) hidden = true;
  else if (hidden) {
    hidden = false;
    if (Date.now() - shown() > SLEPT_MS) began = { wall: Date.now(), count: performance.now() };
  }
}
document.addEventListener("visibilitychange", () => woke(document.visibilityState === "visible"));
