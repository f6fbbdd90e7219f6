import { useSyncExternalStore } from "react";

const WIDE = "(min-width: 768px)";
const THUMB = "(pointer: coarse)";

function useMedia(asked: string): boolean {
  return useSyncExternalStore(
    (changed) => {
      const query = window.matchMedia(asked);
      query.addEventListener("change", changed);
      return () => query.removeEventListener("change", changed);
    },
    () => window.matchMedia(asked).matches,
  );
}

/** Whether the screen has room for the three columns of a desk. */
export const useWide = (): boolean => useMedia(WIDE);

/** Whether it is a thumb that presses: a phone, or a tablet of any width. */
export function useThumb(): boolean {
  const wide = useWide();
  const coarse = useMedia(THUMB);
  return !wide || coarse;
}
