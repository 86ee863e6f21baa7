import { useEffect, useRef, useState } from "react";
import { turnTo } from "./rim";

const STEP_MS = 180;
const ROUND_MS = 4_000;

const calm = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

/**
 * The wheel in the stand: at rest it stands at the spoke in work, a spin goes once round past the pointers. Who wants no motion
 * sees it jump.
 */
export function useSpin(rest: number) {
  const [angle, setAngle] = useState(rest);
  const [spinning, setSpinning] = useState(false);
  const frame = useRef(0);
  const at = useRef(rest);
  useEffect(() => () => cancelAnimationFrame(frame.current), []);
  useEffect(() => {
    cancelAnimationFrame(frame.current);
    const from = at.current;
    const by = turnTo(from, rest);
    const begun = performance.now();
    const move = (time: number) => {
      const share = calm() ? 1 : Math.min(1, Math.max(0, (time - begun) / STEP_MS));
      at.current = from + by * share;
      setAngle(at.current);
      if (share < 1) frame.current = requestAnimationFrame(move);
    };
    frame.current = requestAnimationFrame(move);
    return () => cancelAnimationFrame(frame.current);
  }, [rest]);
  const spin = () => {
    if (spinning) return;
    cancelAnimationFrame(frame.current);
    setSpinning(true);
    const begun = performance.now();
    const move = (time: number) => {
      const share = Math.min(1, Math.max(0, (time - begun) / ROUND_MS));
      // Without motion it stands still at a few places on its way.
      const shown = calm() && share < 1 ? Math.floor(share * 12) / 12 : share;
      at.current = rest + 360 * shown;
      setAngle(at.current);
      if (share < 1) frame.current = requestAnimationFrame(move);
      else setSpinning(false);
    };
    frame.current = requestAnimationFrame(move);
  };
  return { angle, spinning, spin };
}
