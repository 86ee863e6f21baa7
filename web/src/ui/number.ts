/** What a person typed, as a number: comma or point, a leading sign; null where it is none. */
export function typedNumber(text: string): number | null {
  const clean = text.trim().replace(",", ".").replace("−", "-");
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(clean)) return null;
  return Number(clean);
}

/** May this text still become a number? Keeps letters out while a sign or a point stands alone. */
export function couldBeNumber(text: string): boolean {
  return /^[+-]?\d*[.,]?\d*$/.test(text.replace("−", "-"));
}

/** Half a step up or down, to the hundredth at most: a dial's half step is 0.05 mm, a meter's may be a quarter. */
export function stepped(value: number, by: number): string {
  return String(Math.round((value + by) * 100) / 100 || 0);
}
