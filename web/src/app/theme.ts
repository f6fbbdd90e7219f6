import { useSyncExternalStore } from "react";

export type Theme = "daylight" | "attic" | "sunlight";
/** As they are offered: what each is for. */
export const THEMES: Record<Theme, string> = {
  daylight: "Daylight",
  attic: "Attic, dark",
  sunlight: "Sunlight, black on white",
};
const CHANGED = "yoshi:theme";

function listen(changed: () => void): () => void {
  window.addEventListener(CHANGED, changed);
  return () => window.removeEventListener(CHANGED, changed);
}

const read = (): Theme => {
  const set = document.documentElement.dataset.theme;
  return set === "attic" || set === "sunlight" ? set : "daylight";
};

/** The theme of this device: Daylight, Attic for the dark, Sunlight for glare. */
export function useTheme(): [Theme, (next: Theme) => void] {
  const theme = useSyncExternalStore(listen, read);
  const choose = (next: Theme) => {
    document.documentElement.dataset.theme = next;
    localStorage.setItem("yoshi-theme", next);
    window.dispatchEvent(new Event(CHANGED));
  };
  return [theme, choose];
}
