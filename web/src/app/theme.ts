const KEY = "felloe.theme";

export type Theme = "light" | "dark";

export function storedTheme(): Theme {
  return localStorage.getItem(KEY) === "dark" ? "dark" : "light";
}

export function applyStoredTheme(): void {
  document.documentElement.dataset["theme"] = storedTheme();
}

export function chooseTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme);
  applyStoredTheme();
}
