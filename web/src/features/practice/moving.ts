/** What is drawn moves between two answers of the server, ten times a second. */
import { useEffect, useRef, useState } from "react";

/** Between two pictures of one shape; where their shapes differ, the later one. */
export function between<T>(from: T, to: T, share: number): T {
  if (typeof from === "number" && typeof to === "number") return (from + (to - from) * share) as T;
  if (Array.isArray(from) && Array.isArray(to))
    return (from.length === to.length ? to.map((one, n) => between(from[n], one, share)) : to) as T;
  if (from && to && typeof from === "object" && typeof to === "object")
    return Object.fromEntries(
      Object.entries(to).map(([key, value]) => [key, between((from as Record<string, unknown>)[key], value, share)]),
    ) as T;
  return to;
}

/** Twelve pictures a second: a timer comes late, and ten are wanted. */
const FRAME_MS = 80;
const APART_MS = 850;

/** What is shown of something that comes twice a second: on its way from what was shown before. */
export function useMoving<T>(latest: T): T {
  const [shown, setShown] = useState(latest);
  const way = useRef({ from: latest, to: latest, at: 0 });
  const now = useRef(shown);
  now.current = shown;
  useEffect(() => {
    way.current = { from: now.current, to: latest, at: performance.now() };
  }, [latest]);
  useEffect(() => {
    const timer = setInterval(() => {
      const { from, to, at } = way.current;
      const share = Math.min((performance.now() - at) / APART_MS, 1);
      if (now.current !== to) setShown(share >= 1 ? to : between(from, to, share));
    }, FRAME_MS);
    return () => clearInterval(timer);
  }, []);
  return shown;
}
