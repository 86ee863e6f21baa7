/** Turns as a mechanic says them, in sixteenths and without the sign: 0.625 is "5/8". */
export function turnsText(turns: number): string {
  const sixteenths = Math.round(Math.abs(turns) * 16);
  const whole = Math.floor(sixteenths / 16);
  let top = sixteenths % 16;
  if (top === 0) return String(whole);
  let bottom = 16;
  while (top % 2 === 0) {
    top /= 2;
    bottom /= 2;
  }
  return whole ? `${whole} ${top}/${bottom}` : `${top}/${bottom}`;
}
