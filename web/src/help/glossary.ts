import { t as say } from "@lingui/core/macro";

/** A drawing of the glossary; see WordDrawing. */
export type Sketch =
  | "tension"
  | "lateral"
  | "radial"
  | "dish"
  | "spread"
  | "erd"
  | "old"
  | "flange"
  | "twist"
  | "cross"
  | "valve"
  | "arc";

export interface GlossaryWord {
  key: string;
  word: string;
  means: string;
  /** How it is taken, where it is a figure that is asked for. */
  how?: string;
  /** Why it is asked for. */
  why?: string;
  sketch?: Sketch;
}

/** The words of the job, each with what it means; the drawing shows where the tool goes. */
export function glossary(): GlossaryWord[] {
  return [
    {
      key: "tension",
      word: say`Tension`,
      means: say`The force in one spoke. Right and left have each their own mean; the side whose flange lies nearer to the rim’s middle is the tight one.`,
      how: say`Meter on the middle of the spoke, between the last crossing and the nipple, square to it; let go slowly and read.`,
      why: say`Even spokes hold: a wheel goes out of true first where they are not.`,
      sketch: "tension",
    },
    {
      key: "lateral",
      word: say`Lateral`,
      means: say`Where the rim stands off its mean line sideways, + to the right.`,
      how: say`Dial square to the rim’s side, on bare metal, beside the spoke; zero it once, anywhere.`,
      why: say`It rubs, and it shows which nipples pull one against the other.`,
      sketch: "lateral",
    },
    {
      key: "radial",
      word: say`Radial`,
      means: say`Where the rim stands off its mean circle in its plane, + outward.`,
      how: say`Dial from below on the rim’s outer edge, not on the tyre and not on the joint.`,
      why: say`A hop is felt at every turn, and costs the most work: it goes before the last of the lateral.`,
      sketch: "radial",
    },
    {
      key: "dish",
      word: say`Dish`,
      means: say`The rim’s middle against the middle between the locknuts, + to the right.`,
      how: say`Gauge across the rim, its tip on the locknut’s outer face; then turned over to the other side: half the difference.`,
      why: say`Off-centre, a straight wheel still stands crooked in the frame.`,
      sketch: "dish",
    },
    {
      key: "runout",
      word: say`Runout`,
      means: say`What a dial shows over one turn, the largest less the smallest. Also called total indicator reading, TIR.`,
      sketch: "lateral",
    },
    {
      key: "spread",
      word: say`Uneven by, spread`,
      means: say`How far the worst spoke of a side is off that side’s mean, in percent of it.`,
      sketch: "spread",
    },
    {
      key: "arc",
      word: say`Lump, hop, flat`,
      means: say`An arc of the rim that is off: sideways a lump, outward a hop, inward a flat. Never one spoke alone.`,
      sketch: "arc",
    },
    {
      key: "erd",
      word: say`ERD, effective rim diameter`,
      means: say`The circle on which the ends of the spokes should lie: the bottom of the nipples’ slots.`,
      how: say`Two rods through opposite holes and the gap between them; again a third of the way round.`,
      why: say`A millimetre too little here is half a millimetre of spoke too short.`,
      sketch: "erd",
    },
    {
      key: "old",
      word: say`Over-locknut width`,
      means: say`The hub’s width over the outer faces of both locknuts or end caps: what sits between the dropouts.`,
      how: say`Caliper over both outer faces, not over the axle’s ends.`,
      why: say`Its middle is where the rim belongs.`,
      sketch: "old",
    },
    {
      key: "flange",
      word: say`Flange`,
      means: say`The ring that holds the heads of one side: its circle of holes, and how far it stands from the hub’s middle.`,
      how: say`Straight edge on the flange, depth to the locknut; opposite holes for the circle.`,
      why: say`Length and the ratio of both sides’ tensions hang on it.`,
      sketch: "flange",
    },
    {
      key: "valve",
      word: say`R1, L1 …`,
      means: say`Spokes by side, counted from the valve hole in one direction, seen from the right. Right is the drive side.`,
      sketch: "valve",
    },
    {
      key: "cross",
      word: say`Crossing, leading, trailing`,
      means: say`A spoke passes others of its side. A trailing one leaves the hub ahead of its rim hole, a leading one behind it, clockwise from the right.`,
      sketch: "cross",
    },
    {
      key: "twist",
      word: say`Twist, settle`,
      means: say`A spoke turns along with its nipple before the thread slips, and turns back later by itself. Go past and come back; squeeze in pairs, then measure.`,
      sketch: "twist",
    },
    {
      key: "tier",
      word: say`Tier`,
      means: say`What is promised: limits for lateral, radial, dish and spread. Roadworthy, sound, fine, race, or the shop’s own.`,
    },
    {
      key: "pass",
      word: say`Pass, lap`,
      means: say`All nipples of a plan, turned once in their order. A lap is a pass of the same turn for every nipple, while the wheel comes up.`,
    },
    {
      key: "target",
      word: say`Target and limit`,
      means: say`The mean tension that the tight side is to have, and what no spoke may pass. The rim maker’s figures come first; common ones stand in until they are entered.`,
    },
  ];
}
