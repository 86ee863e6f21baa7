import { type CSSProperties, type SVGProps, useLayoutEffect, useRef, useState } from "react";
import { classes } from "./classes";

interface DrawingProps extends Omit<SVGProps<SVGSVGElement>, "viewBox"> {
  /** Left, top, width and height of what is drawn, in its own units. */
  box: readonly [number, number, number, number];
}

/** A drawing that takes the width of its place: its letters (`text-(length:--letter)`) stay as large as they are to be read. */
export function Drawing({ box, className, style, ...rest }: DrawingProps) {
  const frame = useRef<SVGSVGElement>(null);
  const [scale, setScale] = useState(1);
  const [, , width, height] = box;
  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return;
    const look = () => {
      const place = element.getBoundingClientRect();
      if (place.width > 0) setScale(Math.min(place.width / width, place.height / height));
    };
    const follow = new ResizeObserver(look);
    follow.observe(element);
    look();
    return () => follow.disconnect();
  }, [width, height]);
  const letter = { "--letter": `${Math.max(12, 12.5 / scale).toFixed(2)}px` } as CSSProperties;
  return (
    <svg
      ref={frame}
      viewBox={box.join(" ")}
      className={classes("block", className)}
      style={{ ...letter, ...style }}
      {...rest}
    />
  );
}
