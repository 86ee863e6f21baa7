import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { keys, touches } from "@/api/keys";
import { WriteState, useWrite } from "@/write/useWrite";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button, ButtonLink } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import type { ForceUnit } from "@/ui/forces";
import { Notice } from "@/ui/Notice";
import { Despite } from "./Despite";
import { LapsAhead } from "./LapsAhead";
import { TradeOff, useTradeOff } from "./TradeOff";

const STEPS = [
  { value: "auto", text: say`by the wheel`, hint: say`default: an eighth, a sixteenth near the end` },
  { value: "0.25", text: "¼", hint: say`coarse, fewer sizes` },
  { value: "0.125", text: "⅛", hint: "usual" },
  { value: "0.0625", text: "1/16", hint: say`the last touch` },
] as const;

const LIMITS = [
  {
    value: "auto",
    text: say`by the wheel`,
    hint: say`default: a whole turn when far out, a quarter near the end`,
  },
  { value: "1", text: say`1 turn` },
  { value: "0.5", text: say`½ turn` },
  { value: "0.25", text: say`¼ turn` },
] as const;

/** Ask for a plan: how fine, how much at once, which nipples must stay. */
export function PlanMaker({
  jobId,
  setId,
  state,
  unit,
}: {
  jobId: string;
  setId: string;
  state: Schemas["State"];
  unit: ForceUnit;
}) {
  const [open, setOpen] = useState(false);
  const [step, setStep] = useState<string>("auto");
  const [mode, setMode] = useState<Schemas["PlanModeEnum"]>("balanced");
  const [first, setFirst] = useState("");
  const [last, setLast] = useState("");
  const modes = useQuery({ ...ask.planModes(), enabled: open });
  const [limit, setLimit] = useState<string>("auto");
  const [typed, setTyped] = useState<string | null>(null);
  const [despite, setDespite] = useState("");
  const [picked, setPicked] = useState<{ of: string; nipples: number } | null>(null);
  // Nipples that an earlier plan was told to leave are remembered until somebody says otherwise.
  const recalled = useQuery({ ...ask.leftAlone(setId), enabled: open });
  const untouchable = typed ?? recalled.data?.names.join(" ") ?? "";
  const named = untouchable.split(/[\s,;]+/).filter(Boolean);
  const asked: Schemas["PlanRequestRequest"] = {
    step_turns: step === "auto" ? null : Number(step),
    mode,
    ...(mode === "local" ? { between: [first.trim(), last.trim()] } : {}),
    limit_turns: limit === "auto" ? null : Number(limit),
    untouchable: named,
  };
  const whole = named.every((name) => /^[RL]\d{1,2}$/i.test(name));
  const stretched = mode !== "local" || [first, last].every((name) => /^[RL]\d{1,2}$/.test(name.trim()));
  const tradeOff = useTradeOff(setId, asked, open && mode !== "build" && whole && stretched);
  const key = JSON.stringify(asked);
  const nipples = picked?.of === key ? picked.nipples : null;
  const navigate = useNavigate();
  const make = useWrite({
    touches: touches.job(jobId),
    send: (asRead: boolean, head) =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/plans", {
          params: { path: { set_id: setId } },
          ...head,
          body: {
            ...asked,
            ...(nipples ? { nipples } : {}),
            ...(despite ? { despite } : {}),
            ...(asRead ? { as_read: true } : {}),
          },
        }),
      ),
    fills: (plan) => keys.plan(plan.id),
    onSaved: async (plan) => {
      await navigate(`/jobs/${jobId}/plan/${plan.id}`);
    },
  });
  const live = useWrite({
    touches: touches.job(jobId),
    send: (asRead: boolean, head) =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/live", {
          params: { path: { set_id: setId } },
          ...head,
          body: {
            untouchable: named,
            ...(despite ? { despite } : {}),
            ...(asRead ? { as_read: true } : {}),
          },
        }),
      ),
    fills: (step) => keys.livePass(step.plan_id),
    onSaved: async (step) => {
      await navigate(`/jobs/${jobId}/live/${step.plan_id}`);
    },
  });
  const refused = make.refused ?? live.refused;
  const begin = (asRead: boolean) => {
    make.reset();
    live.go(asRead);
  };
  const workOut = (asRead: boolean) => {
    live.reset();
    make.go(asRead);
  };
  return (
    <>
      <Button weight="now" onClick={() => setOpen(true)} disabled={state.reading_count === 0}>
        <Trans>Plan the truing</Trans>
      </Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title={say`Plan the truing`}
        lead={say`To ${word(state.tier.name)}. What earlier passes taught of this rim counts.`}
      >
        <div className="flex flex-col gap-4">
          <IfFailed of={modes} />
          <PickField
            label={say`School`}
            value={mode}
            onChange={(m) => setMode(m as typeof mode)}
            options={(modes.data ?? []).map((m) => ({ value: m.key, text: m.name }))}
            help={modes.data?.find((m) => m.key === mode)?.why}
          />
          {mode === "local" && (
            <div className="flex gap-4">
              <TextField
                label={say`From spoke`}
                value={first}
                onChange={(v) => setFirst(v.toUpperCase())}
                className="w-32"
              />
              <TextField
                label={say`To spoke`}
                value={last}
                onChange={(v) => setLast(v.toUpperCase())}
                className="w-32"
              />
            </div>
          )}
          {mode === "build" && <LapsAhead setId={setId} unit={unit} />}
          {mode !== "build" && (
            <TradeOff
              found={tradeOff}
              unit={unit}
              chosen={nipples}
              onChoose={(n) => setPicked({ of: key, nipples: n })}
            />
          )}
          <details>
            <summary className="min-h-12 cursor-pointer py-3 font-bold">
              <Trans>Step and limit of this pass</Trans>
            </summary>
            <div className="flex flex-col gap-4">
              <div>
                <p className="mb-1 text-sm font-bold">
                  <Trans>Smallest step of a turn</Trans>
                </p>
                <Choice
                  label={say`Smallest step of a turn`}
                  value={step}
                  onChange={setStep}
                  options={STEPS}
                />
              </div>
              <div>
                <p className="mb-1 text-sm font-bold">
                  <Trans>Most for one nipple in this pass</Trans>
                </p>
                <Choice label={say`Most for one nipple`} value={limit} onChange={setLimit} options={LIMITS} />
              </div>
            </div>
          </details>
          <TextField
            label={say`Nipples that must not be turned`}
            help={say`Seized or rounded ones, by name: R4 L11`}
            value={untouchable}
            onChange={setTyped}
            error={refused?.for("untouchable") ?? refused?.for("spoke")}
          />
          {refused?.code === "slips_open" && (
            <div className="flex flex-wrap gap-3">
              <ButtonLink to={`/jobs/${jobId}/readings/${setId}`}>
                <Trans>Look at the readings</Trans>
              </ButtonLink>
              <Button
                onClick={() => (live.refused ? begin(true) : workOut(true))}
                disabled={make.pending || live.pending}
              >
                <Trans>Plan with the readings as they are</Trans>
              </Button>
            </div>
          )}
          <Despite refused={refused} value={despite} onChange={setDespite} />
          <WriteState of={make} fields={["untouchable", "spoke"]} />
          <WriteState of={live} fields={["untouchable", "spoke"]} />
          <Notice kind="caution">
            <Trans>
              Too much tension pulls nipples through the rim or makes it collapse. The rim maker&rsquo;s limit
              comes before this plan.
            </Trans>
          </Notice>
          <div className="sticky bottom-0 flex justify-end gap-3 bg-face py-3">
            <Button onClick={() => setOpen(false)}>
              <Trans>Not now</Trans>
            </Button>
            {mode === "balanced" && (
              <Button onClick={() => begin(false)} disabled={make.pending || live.pending}>
                {live.pending ? say`Working it out …` : say`Live, nipple by nipple`}
              </Button>
            )}
            <Button
              weight="now"
              onClick={() => workOut(false)}
              disabled={make.pending || live.pending || nipples === 0}
              autoFocus
            >
              {make.pending ? say`Working it out …` : say`Work out the plan`}
            </Button>
          </div>
        </div>
      </Dialog>
    </>
  );
}
