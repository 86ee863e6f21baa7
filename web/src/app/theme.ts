const KEY = "felloe.theme";

/** Light, dark, or as the device has it. */
export const THEMES = ["device", "light", "dark"] as const;
export type Theme = (typeof THEMES)[number];

export function storedTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  return kept === "dark" || kept === "light" ? kept : "device";
}

export function applyStoredTheme(): void {
  const theme = storedTheme();
  if (theme === "device") delete document.documentElement.dataset["theme"];
  else document.documentElement.dataset["theme"] = theme;
}

export function chooseTheme(theme: Theme): void {
  if (theme === "device") localStorage.removeItem(KEY);
  else localStorage.setItem(KEY, theme);
  applyStoredTheme();
}
