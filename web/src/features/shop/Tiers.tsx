import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { classes } from "@/ui/classes";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { figure, typedNumber } from "@/ui/number";
import { IfFailed } from "@/ui/NotYet";
import { NumberField } from "@/ui/NumberField";
import { dayAndTime } from "@/ui/when";
import { headWord } from "@/ui/words";
import { useWrite, WriteState } from "@/write/useWrite";

type Tier = Schemas["ShopTier"];
const FIGURES = ["lateral_mm", "radial_mm", "dish_mm", "tension_percent"] as const;

/** What the shop holds its wheels to: the usual tiers with its own figures, and any that it adds. */
export function Tiers({ owner }: { owner: boolean }) {
  const tiers = useQuery(ask.tiers());
  const [open, setOpen] = useState<Tier | "new" | null>(null);
  return (
    <section aria-label={say`Tiers`} className="flex flex-col gap-2">
      <h2>
        <Trans>Tiers</Trans>
      </h2>
      <p className="text-sm text-muted">
        <Trans>
          What a finished wheel is inside of. A job keeps the figures of the day on which its tier was chosen;
          changing them here holds for the next.
        </Trans>
      </p>
      <IfFailed of={tiers} />
      <table className="w-full text-left">
        <thead className="text-sm text-muted">
          <tr>
            <th scope="col" className="font-normal">
              <Trans>Tier</Trans>
            </th>
            <th scope="col" className="pl-3 text-right font-normal">
              <Trans>lateral / radial / dish</Trans>
            </th>
            <th scope="col" className="pl-3 text-right font-normal">
              <Trans>± %</Trans>
            </th>
            <th />
          </tr>
        </thead>
        <tbody>
          {(tiers.data ?? []).map((t) => (
            <tr key={t.name} className={classes("border-t border-line", !t.in_use && "text-muted")}>
              <th scope="row" className="py-1 font-bold">
                {headWord(t.name)}
                {!t.in_use && (
                  <span className="block text-sm font-normal">
                    <Trans>not offered</Trans>
                  </span>
                )}
                {t.plain && <span className="block text-sm font-normal text-muted">{t.plain}</span>}
              </th>
              <td className="text-right whitespace-nowrap tabular-nums">
                {figure(t.lateral_mm)} / {figure(t.radial_mm)} / {figure(t.dish_mm)}
              </td>
              <td className="pl-3 text-right tabular-nums">{figure(t.tension_percent)}</td>
              <td className="text-right">
                {owner && (
                  <Button
                    weight="quiet"
                    onClick={() => setOpen(t)}
                    aria-label={say`Change ${headWord(t.name)}`}
                  >
                    <Trans>Change</Trans>
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {owner && (
        <div>
          <Button onClick={() => setOpen("new")}>
            <Trans>Add a tier …</Trans>
          </Button>
        </div>
      )}
      {open && <TierDialog tier={open === "new" ? null : open} onClose={() => setOpen(null)} />}
    </section>
  );
}

function TierDialog({ tier, onClose }: { tier: Tier | null; onClose: () => void }) {
  const [name, setName] = useState(tier?.name ?? "");
  const [plain, setPlain] = useState(tier?.plain ?? "");
  const [figures, setFigures] = useState<Record<(typeof FIGURES)[number], string>>({
    lateral_mm: String(tier?.lateral_mm ?? ""),
    radial_mm: String(tier?.radial_mm ?? ""),
    dish_mm: String(tier?.dish_mm ?? ""),
    tension_percent: String(tier?.tension_percent ?? ""),
  });
  const save = useWrite({
    touches: touches.tiers(),
    fills: () => keys.tiers(),
    send: (in_use: boolean, head) =>
      answer(
        client.PUT("/api/v1/tiers", {
          ...head,
          body: {
            name,
            plain,
            in_use,
            version: tier?.version ?? 0,
            lateral_mm: typedNumber(figures.lateral_mm) ?? 0,
            radial_mm: typedNumber(figures.radial_mm) ?? 0,
            dish_mm: typedNumber(figures.dish_mm) ?? 0,
            tension_percent: typedNumber(figures.tension_percent) ?? 0,
          },
        }),
      ),
    onSaved: onClose,
  });
  const labels = {
    lateral_mm: say`Lateral, mm`,
    radial_mm: say`Radial, mm`,
    dish_mm: say`Dish either way, mm`,
    tension_percent: say`Tension ±, % of the side’s mean`,
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go(tier?.in_use ?? true);
  };
  return (
    <Dialog open onOpenChange={onClose} title={tier ? say`Tier: ${headWord(tier.name)}` : say`Another tier`}>
      <form onSubmit={submit} className="grid grid-cols-2 gap-x-4 gap-y-2">
        {!tier && (
          <TextField
            label={say`Name`}
            value={name}
            onChange={setName}
            maxLength={20}
            required
            help={say`Stays as it is: jobs and records carry it`}
            error={save.refused?.for("name")}
            className="col-span-2"
          />
        )}
        {FIGURES.map((figure) => (
          <NumberField
            key={figure}
            label={labels[figure]}
            unit={figure === "tension_percent" ? "%" : "mm"}
            value={figures[figure]}
            onChange={(value) => setFigures((f) => ({ ...f, [figure]: value }))}
            required
            error={save.refused?.for(figure)}
          />
        ))}
        <TextField
          label={say`What it means, for the customer`}
          value={plain}
          onChange={setPlain}
          maxLength={200}
          help={say`Read out, written and printed as it stands; empty for the usual words`}
          error={save.refused?.for("plain")}
          className="col-span-2"
        />
        {tier?.changed_at && (
          <p className="col-span-2 text-sm text-muted">
            <Trans>
              Changed by {tier.changed_by}, {dayAndTime(tier.changed_at)}.
            </Trans>
          </p>
        )}
        <div className="col-span-2">
          <WriteState of={save} fields={["name", "plain", ...FIGURES]} />
        </div>
        <div className="col-span-2 flex flex-wrap justify-end gap-3">
          {tier && (
            <Button disabled={save.pending} onClick={() => save.go(!tier.in_use)} className="mr-auto">
              {tier.in_use ? say`Offer it no longer` : say`Offer it again`}
            </Button>
          )}
          <Button onClick={onClose}>
            <Trans>Leave as it was</Trans>
          </Button>
          <Button weight="now" type="submit" disabled={save.pending}>
            <Trans>Save</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
