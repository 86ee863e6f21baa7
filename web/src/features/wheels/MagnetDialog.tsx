import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { IfFailed } from "@/ui/NotYet";
import { keys } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";

type Pull = "strong" | "weak" | "none";
type Known = NonNullable<Schemas["SpokeSpec"]["material"]>;
const KNOWN: Record<string, Known> = {
  "carbon steel": "carbon_steel",
  stainless: "stainless",
  titanium: "titanium",
  aluminium: "aluminium",
};

interface MagnetDialogProps {
  side: string;
  thickness: string;
  onTake: (material: Known) => void;
  onClose: () => void;
}

/** What is this spoke made of: a magnet first, then the caliper. */
export function MagnetDialog({ side, thickness, onTake, onClose }: MagnetDialogProps) {
  const [pull, setPull] = useState<Pull>("weak");
  const [mm, setMm] = useState(thickness);
  const [tied, setTied] = useState<"no" | "yes">("no");
  const thickness_mm = typedNumber(mm) ?? NaN;
  const guess = useQuery({
    queryKey: keys.sum("material", pull, thickness_mm, tied),
    queryFn: () =>
      answer(
        client.GET("/api/v1/material", { params: { query: { pull, thickness_mm, tied: tied === "yes" } } }),
      ),
    enabled: thickness_mm > 0,
    retry: false,
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`What are the ${side} spokes made of?`}
      lead={say`A magnet to the thin middle, then the caliper.`}
    >
      <div className="flex flex-col gap-4">
        <Choice<Pull>
          label={say`How the magnet takes to it`}
          value={pull}
          onChange={setPull}
          options={[
            { value: "strong", text: say`pulls strongly` },
            { value: "weak", text: say`pulls weakly` },
            { value: "none", text: say`not at all` },
          ]}
        />
        <div className="flex items-start gap-4">
          <NumberField
            label={say`Thickness, mm`}
            min={0}
            unit="mm"
            value={mm}
            onChange={setMm}
            className="w-36"
          />
          {pull === "none" && (
            <Choice
              label={say`Is it a cord`}
              value={tied}
              onChange={setTied}
              options={[
                { value: "no", text: say`stiff` },
                { value: "yes", text: say`bends like a cord` },
              ]}
              className="mt-6"
            />
          )}
        </div>
        <IfFailed of={guess} />
        {guess.data && (
          <>
            <p className="text-lg">{guess.data.why}</p>
            <div className="flex gap-3">
              {guess.data.materials.map((name, i) => {
                const known = KNOWN[name];
                return known ? (
                  <Button key={name} weight={i === 0 ? "now" : "plain"} onClick={() => onTake(known)}>
                    <Trans>It is {name}</Trans>
                  </Button>
                ) : (
                  <p key={name} className="self-center text-muted">
                    <Trans>{name}: not in Felloe&rsquo;s tables; its maker&rsquo;s figures only.</Trans>
                  </p>
                );
              })}
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}
