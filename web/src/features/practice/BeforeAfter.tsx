import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { Drawing } from "@/ui/Drawing";

interface BeforeAfterProps {
  lesson: Schemas["PracticeLesson"];
  way: Schemas["LessonWay"];
}

const LANE = 84;
const WIDE = 900;
const LEFT = 90;

/** The rim cut at the valve and laid flat, as it was and as it is after. */
export function BeforeAfter({ lesson, way }: BeforeAfterProps) {
  const most = Math.max(
    1,
    ...[lesson, way].flatMap((of) => [...of.lateral_mm, ...of.radial_mm].map(Math.abs)),
  );
  const line = (values: number[], middle: number) =>
    `M${values
      .map(
        (mm, i) =>
          `${(LEFT + (i * WIDE) / values.length).toFixed(1)} ${(middle - (mm / most) * (LANE / 2 - 6)).toFixed(1)}`,
      )
      .join("L")}`;
  const lane = (name: string, before: number[], after: number[], middle: number) => (
    <g>
      <path d={`M${LEFT} ${middle}h${WIDE}`} className="stroke-line" strokeWidth={1} />
      <text x={0} y={middle} dy="0.35em" className="fill-muted text-(length:--letter)">
        {name}
      </text>
      <path
        d={line(before, middle)}
        fill="none"
        className="stroke-muted"
        strokeWidth={2.5}
        strokeDasharray="5 5"
      />
      <path d={line(after, middle)} fill="none" className="stroke-ink" strokeWidth={4} />
    </g>
  );
  return (
    <figure className="m-0">
      <Drawing
        box={[0, 0, LEFT + WIDE, 2 * LANE + 10]}
        role="img"
        aria-label={say`The rim before and after: ${way.name}`}
        className="w-full"
      >
        {lane(say`lateral`, lesson.lateral_mm, way.lateral_mm, LANE / 2)}
        {lane(say`radial`, lesson.radial_mm, way.radial_mm, LANE * 1.5 + 10)}
      </Drawing>
      <figcaption className="text-sm text-muted">
        <Trans>Dashed: before. Full: after. From the valve to the valve.</Trans>
      </figcaption>
    </figure>
  );
}
