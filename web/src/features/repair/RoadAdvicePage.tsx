import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { keys } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "@/api/client";
import type { operations } from "@/api/schema";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Notice } from "@/ui/Notice";
import { InLanguage } from "@/app/InLanguage";

type Trouble = operations["road_advice"]["parameters"]["query"]["trouble"];
const TROUBLES: { value: Trouble; text: string }[] = [
  { value: "broken_spoke", text: say`one spoke broken` },
  { value: "several_broken", text: say`several broken` },
  { value: "loose_spokes", text: say`spokes loose` },
  { value: "wobbles", text: say`wobbles or rubs` },
  { value: "hit", text: say`hit something` },
  { value: "axle_loose", text: say`axle loose, knocks` },
  { value: "rim_cracked", text: say`rim cracked` },
];

/** A customer on the phone with a wheel that gave way: ride or walk, and what to do first. */
export default function RoadAdvicePage() {
  const [trouble, setTrouble] = useState<Trouble>("broken_spoke");
  const [rimBrake, setRimBrake] = useState("yes");
  const [loaded, setLoaded] = useState("no");
  const [carbon, setCarbon] = useState("no");
  const [few, setFew] = useState("no");
  const query = {
    trouble,
    rim_brake: rimBrake === "yes",
    loaded: loaded === "yes",
    carbon: carbon === "yes",
    spokes: few === "yes" ? 20 : 32,
  };
  const card = useQuery({
    queryKey: keys.sum("road", query),
    queryFn: () => answer(client.GET("/api/v1/road-advice", { params: { query } })),
    placeholderData: (old) => old,
  });
  const ask = (label: string, value: string, onChange: (v: string) => void) => (
    <div className="flex items-center gap-3">
      <span className="w-56">{label}</span>
      <Choice
        label={label}
        value={value}
        onChange={onChange}
        options={[
          { value: "yes", text: say`yes` },
          { value: "no", text: say`no` },
        ]}
      />
    </div>
  );
  return (
    <main className="grid flex-1 grid-cols-1 gap-8 p-6 lg:grid-cols-[420px_1fr] print:block">
      <section aria-label={say`What happened`} className="flex flex-col gap-3 print:hidden">
        <h1>
          <Trans>On the road: what happened?</Trans>
        </h1>
        <Choice<Trouble>
          label={say`What happened`}
          value={trouble}
          onChange={setTrouble}
          options={TROUBLES}
          className="flex-wrap"
        />
        {ask(say`Does a rim brake act on it?`, rimBrake, setRimBrake)}
        {ask(say`Load, passenger or motor?`, loaded, setLoaded)}
        {ask(say`Carbon rim?`, carbon, setCarbon)}
        {ask(say`Fewer than 24 spokes?`, few, setFew)}
        <Button onClick={() => window.print()}>
          <Trans>Print the card</Trans>
        </Button>
        <InLanguage />
      </section>
      <IfFailed of={card} />
      {card.data && (
        <section aria-label={say`The card`} className="flex max-w-3xl flex-col gap-4">
          <p className={`text-4xl font-bold ${card.data.ride ? "" : "text-danger"}`}>
            {card.data.ride
              ? say`Ride on: at most ${card.data.km} km, ${card.data.km_h} km/h`
              : say`Do not ride. Walk, or be fetched.`}
          </p>
          <ol className="flex flex-col">
            {card.data.steps.map((step, i) => (
              <li key={step} className="flex gap-4 border-t border-line py-2 text-xl">
                <span className="font-figure text-muted">{i + 1}</span>
                {step}
              </li>
            ))}
          </ol>
          <Notice kind="caution">
            <Trans>
              {card.data.label}. {card.data.ride && say`It holds to a workshop and no further. `}Never ride on
              a cracked rim or a loose axle; when in doubt, walk.
            </Trans>
          </Notice>
        </section>
      )}
    </main>
  );
}
