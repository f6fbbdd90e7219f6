import { useState } from "react";

export type Theme = "daylight" | "attic";

/** The theme of this device: Daylight for glare, Attic for the dark. */
export function useTheme(): [Theme, () => void] {
  const [theme, setTheme] = useState<Theme>(() =>
    document.documentElement.dataset.theme === "attic" ? "attic" : "daylight",
  );
  const flip = () => {
    const next = theme === "attic" ? "daylight" : "attic";
    document.documentElement.dataset.theme = next;
    localStorage.setItem("yoshi-theme", next);
    setTheme(next);
  };
  return [theme, flip];
}
