import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";

/** What must be met before the wheel may leave: met ones in a word, missing ones with what is missing. */
export function Requirements({ of }: { of: readonly Schemas["Requirement"][] }) {
  const missing = of.filter((r) => !r.met);
  const met = of.filter((r) => r.met);
  if (of.length === 0) return null;
  return (
    <section aria-label={say`Before it may leave`} className="flex flex-col gap-1">
      <h2 className="text-base">
        <Trans>Before it may leave</Trans>
      </h2>
      <ul className="flex flex-col gap-1 text-sm">
        {missing.map((r) => (
          <li
            key={r.key}
            className={`border-l-4 pl-2 ${r.key === "safe" ? "border-danger" : "border-line-strong"}`}
          >
            <strong>○ {r.name}</strong>: {r.missing}
          </li>
        ))}
      </ul>
      {met.length > 0 && <p className="text-sm text-muted">✓ {met.map((r) => r.name).join(" · ")}</p>}
    </section>
  );
}
