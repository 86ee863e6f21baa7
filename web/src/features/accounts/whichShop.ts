const AT = "felloe.shop";

/** The shop that this tablet signed in to last, by its short name; "" where that was never asked for. */
export function knownShop(): string {
  try {
    return window.localStorage.getItem(AT) ?? "";
  } catch {
    return "";
  }
}

export function rememberShop(code: string): void {
  try {
    window.localStorage.setItem(AT, code);
  } catch {
    // Then it is asked for again next time.
  }
}
