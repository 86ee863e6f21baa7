interface QrCodeProps {
  /** The modules, one string of 0 and 1 a row, without the quiet zone. */
  rows: readonly string[];
  label: string;
  className: string;
}

/** So many modules of nothing a code needs around it (ISO/IEC 18004). */
const QUIET = 4;

/** A code reads dark on light, in any theme and on any printer. */
export function QrCode({ rows, label, className }: QrCodeProps) {
  const size = rows.length + 2 * QUIET;
  return (
    <svg
      viewBox={`0 0 ${size} ${size}`}
      className={className}
      role="img"
      aria-label={label}
      shapeRendering="crispEdges"
    >
      <rect width={size} height={size} fill="#ffffff" />
      <path
        fill="#000000"
        d={rows
          .flatMap((row, y) =>
            [...row].map((cell, x) => (cell === "1" ? `M${x + QUIET} ${y + QUIET}h1v1h-1z` : "")),
          )
          .join("")}
      />
    </svg>
  );
}
