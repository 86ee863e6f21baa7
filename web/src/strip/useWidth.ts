import { type RefObject, useLayoutEffect, useRef, useState } from "react";

/** The width of an element in pixels, followed as it changes. */
export function useWidth(): [RefObject<HTMLDivElement | null>, number] {
  const frame = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1200);
  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return;
    const follow = new ResizeObserver(() => setWidth(Math.max(320, element.clientWidth)));
    follow.observe(element);
    setWidth(Math.max(320, element.clientWidth));
    return () => follow.disconnect();
  }, []);
  return [frame, width];
}
