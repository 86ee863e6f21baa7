import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { askPractice } from "@/api/practiceQueries";
import { ask } from "@/api/queries";
import { useMay } from "@/app/useMay";

interface Step {
  done: boolean;
  to: string;
  name: string;
  why: string;
}

/** The first day of an empty shop: what to do in which order, each step ticked by what is really there. */
export function FirstDay() {
  const may = useMay();
  const meters = useQuery(ask.meters());
  const places = useQuery(ask.places());
  const stock = useQuery(ask.stock());
  const ladder = useQuery({ ...askPractice.ladder(), enabled: may("practice") });
  const steps: (Step | false)[] = [
    may("place_add") && {
      done: (places.data ?? []).length > 0,
      to: "/shop",
      name: say`Name the hooks, the hours and the people`,
      why: say`Promises are counted in the hours that somebody is at the bench.`,
    },
    may("instrument_add") && {
      done: (meters.data ?? []).length > 0,
      to: "/instruments",
      name: say`Enter your meter’s chart`,
      why: say`A reading is worth what its chart is worth; without one, force is entered as it is.`,
    },
    may("part_add") && {
      done: (stock.data?.parts ?? []).length > 0,
      to: "/stock",
      name: say`Count the spokes in the bins`,
      why: say`A length that is there is offered first; what runs out is ordered in time.`,
    },
    may("practice") && {
      done: (ladder.data?.rungs ?? []).some((rung) => rung.runs > 0),
      to: "/practice",
      name: say`True a practice wheel`,
      why: say`Nobody’s wheel, and the same keys: ten minutes, and the bench is in the hand.`,
    },
    may("job_open") && {
      done: false,
      to: "/take-in",
      name: say`Hang up the first wheel`,
      why: say`Half a minute: whose, what for, by when. It hangs there at its promise.`,
    },
  ];
  const shown = steps.filter((step) => step !== false);
  const next = shown.find((step) => !step.done);
  return (
    <section aria-label={say`The first day`} className="flex max-w-3xl flex-col gap-3 p-4">
      <h2>
        <Trans>The first day</Trans>
      </h2>
      <ol className="flex flex-col gap-1">
        {shown.map((step, i) => (
          <li key={step.to}>
            <Link
              to={step.to}
              className={`grid min-h-14 grid-cols-[2.5rem_1fr] items-center rounded-md border px-3 py-2 ${step === next ? "border-ink bg-plate" : "border-line"}`}
            >
              <span className="font-figure text-xl font-bold" aria-hidden="true">
                {step.done ? "✓" : i + 1}
              </span>
              <span>
                <strong>{step.name}</strong>
                {step.done && (
                  <span className="sr-only">
                    <Trans>done</Trans>
                  </span>
                )}
                <span className="block text-sm text-muted">{step.why}</span>
              </span>
            </Link>
          </li>
        ))}
      </ol>
      <p className="text-sm">
        <Trans>
          Any word with dots under it explains itself; the key ? shows the keys of the screen you are on.
        </Trans>
      </p>
    </section>
  );
}
