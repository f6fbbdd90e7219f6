import { useEffect, useState } from "react";
import { nowMs } from "./time.ts";

/** The time in milliseconds, again every `every`. */
export function useNow(every = 1000): number {
  const [now, setNow] = useState(() => nowMs());
  useEffect(() => {
    const timer = setInterval(() => setNow(nowMs()), every);
    return () => clearInterval(timer);
  }, [every]);
  return now;
}
