import { type RefObject, useLayoutEffect, useRef, useState } from "react";

/** The room of an element in pixels, followed as it changes. */
export function useRoom(): [RefObject<HTMLDivElement | null>, { width: number; height: number }] {
  const frame = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState({ width: 1200, height: 0 });
  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return;
    const look = () =>
      setRoom((was) => {
        const now = { width: Math.max(280, element.clientWidth), height: element.clientHeight };
        return now.width === was.width && now.height === was.height ? was : now;
      });
    const follow = new ResizeObserver(look);
    follow.observe(element);
    look();
    return () => follow.disconnect();
  }, []);
  return [frame, room];
}
