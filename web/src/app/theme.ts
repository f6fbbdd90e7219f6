import { useSyncExternalStore } from "react";

export type Theme = "daylight" | "attic";
const CHANGED = "yoshi:theme";

function listen(changed: () => void): () => void {
  window.addEventListener(CHANGED, changed);
  return () => window.removeEventListener(CHANGED, changed);
}

const read = (): Theme => (document.documentElement.dataset.theme === "attic" ? "attic" : "daylight");

/** The theme of this device: Daylight for glare, Attic for the dark. */
export function useTheme(): [Theme, () => void] {
  const theme = useSyncExternalStore(listen, read);
  const flip = () => {
    const next = theme === "attic" ? "daylight" : "attic";
    document.documentElement.dataset.theme = next;
    localStorage.setItem("yoshi-theme", next);
    window.dispatchEvent(new Event(CHANGED));
  };
  return [theme, flip];
}
