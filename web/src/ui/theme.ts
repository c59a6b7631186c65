import { useEffect, useState } from "react";

type Theme = "light" | "dark";
const KEY = "vivid-lattice/theme";

function stored(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return window.matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

/** The theme in force and the way to change it; kept in this browser. */
export function useTheme(): [Theme, () => void] {
  const [theme, setTheme] = useState<Theme>(stored);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  return [
    theme,
    () => {
      const next = theme === "light" ? "dark" : "light";
      localStorage.setItem(KEY, next);
      setTheme(next);
    },
  ];
}
