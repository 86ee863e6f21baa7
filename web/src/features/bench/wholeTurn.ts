import { t as say } from "@lingui/core/macro";

const TURN_MS = 40_000;
const LOOK_MS = 400;

/**
 * Ask again while the server is listening, until the wheel has gone once round or it has taken too long. `isWhole` tells the
 * answer from what was heard so far; `going` whether anybody still waits for it.
 */
export async function wholeTurn<Heard extends object, Whole extends object>(
  ask: () => Promise<Heard | Whole>,
  isWhole: (heard: Heard | Whole) => heard is Whole,
  heardSoFar: (heard: Heard) => void = () => undefined,
  going: () => boolean = () => true,
): Promise<Whole> {
  const end = Date.now() + TURN_MS;
  for (;;) {
    const heard = await ask();
    if (isWhole(heard)) return heard;
    heardSoFar(heard);
    if (Date.now() > end || !going())
      throw new Error(say`The wheel did not go once round: turn it slowly, a little over one turn.`);
    await new Promise((done) => setTimeout(done, LOOK_MS));
  }
}
