import { useSyncExternalStore } from "react";

const WIDE = "(min-width: 768px)";

/** Whether the screen has room for the three columns of a desk. */
export function useWide(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const query = window.matchMedia(WIDE);
      query.addEventListener("change", changed);
      return () => query.removeEventListener("change", changed);
    },
    () => window.matchMedia(WIDE).matches,
  );
}
