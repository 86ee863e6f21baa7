interface HungWheelProps {
  spokes: number;
  crossings: number;
  /** How far the job has got, 0 to 1. */
  share: number;
  waiting: boolean;
}

/** A small wheel on its hook: its own spoke count and crossing; the tyre is filled as far as the job has got. */
export function HungWheel({ spokes, crossings, share, waiting }: HungWheelProps) {
  const side = Math.max(1, spokes / 2);
  const point = (radius: number, turn: number): string => {
    const rad = turn * 2 * Math.PI;
    return `${(40 + radius * Math.sin(rad)).toFixed(1)} ${(64 - radius * Math.cos(rad)).toFixed(1)}`;
  };
  const lines = Array.from({ length: spokes }, (_, i) => {
    const at = (i + 0.5) / spokes;
    const lean = crossings === 0 ? 0 : (Math.floor(i / 2) % 2 ? -1 : 1) * (crossings / side);
    return `M${point(29, at)}L${point(5, at + lean)}`;
  }).join("");
  const round = 2 * Math.PI * 33;
  return (
    <svg viewBox="0 0 80 100" className="h-[100px] w-[80px]" aria-hidden="true">
      <path d="M40 0v22c0 8 7 8 7 13" fill="none" className="stroke-line-strong" strokeWidth={2.5} />
      <circle
        cx={40}
        cy={64}
        r={33}
        fill="none"
        className="stroke-line"
        strokeWidth={5}
        {...(waiting ? { strokeDasharray: "3 4" } : {})}
      />
      <circle
        cx={40}
        cy={64}
        r={33}
        fill="none"
        stroke="currentColor"
        strokeWidth={5}
        strokeDasharray={`${round * share} ${round}`}
        transform="rotate(-90 40 64)"
      />
      <circle cx={40} cy={64} r={29} fill="none" stroke="currentColor" strokeWidth={1.25} />
      <path d={lines} stroke="currentColor" strokeWidth={0.6} />
      <circle cx={40} cy={64} r={5} fill="currentColor" />
    </svg>
  );
}
