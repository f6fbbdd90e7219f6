import { useNow } from "../device/useNow.ts";

/** Time left as minutes and seconds, hours above an hour; nothing is left at nought. */
export function left(until: string, now: number): string {
  const seconds = Math.max(0, Math.round((new Date(until).getTime() - now) / 1000));
  const [hours, minutes, rest] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  const two = (n: number) => String(n).padStart(2, "0");
  return hours ? `${hours} h ${two(minutes)}` : `${minutes}:${two(rest)}`;
}

/** A wait as it runs out. */
export function Countdown({ until }: { until: string }) {
  const now = useNow();
  return <time dateTime={until}>{left(until, now)}</time>;
}
