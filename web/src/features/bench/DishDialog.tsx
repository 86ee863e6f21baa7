import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { keys, touches } from "@/api/keys";
import { useWrite, WriteState } from "@/write/useWrite";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Fraction } from "@/ui/Fraction";
import { type ForceUnit, shownForce, signed } from "@/ui/forces";
import { Notice } from "@/ui/Notice";
import { Despite } from "./Despite";
import { turnsText } from "./turns";
import { figure } from "@/ui/number";

interface DishDialogProps {
  jobId: string;
  setId: string;
  unit: ForceUnit;
}

/** Correct dish alone: every nipple of a side alike, by the side that also brings the tension right. */
export function DishDialog({ jobId, setId, unit }: DishDialogProps) {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const [despite, setDespite] = useState("");
  const advice = useQuery({ ...ask.dishOptions(setId), enabled: open });
  const make = useWrite({
    touches: touches.job(jobId),
    send: (dish_option: Schemas["DishOption"]["key"], head) =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/plans", {
          params: { path: { set_id: setId } },
          ...head,
          body: { dish_option, ...(despite ? { despite } : {}) },
        }),
      ),
    fills: (plan) => keys.plan(plan.id),
    onSaved: async (plan) => {
      await navigate(`/jobs/${jobId}/plan/${plan.id}`);
    },
  });
  const found = advice.data;
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <Trans>Dish alone</Trans>
      </Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title={say`Correct the dish alone`}
        lead={say`Before turning spokes: was the hub apart? Wrongly placed spacers shift the axle.`}
      >
        <div className="flex flex-col gap-4">
          <IfFailed of={advice} />
          {found && (
            <>
              <p>
                <Trans>
                  The rim sits{" "}
                  <strong className="font-figure">
                    {signed(found.dish_mm, 2)} ± {figure(found.dish_sd_mm, 2)} mm
                  </strong>{" "}
                  (+ right). {found.reason}
                </Trans>
              </p>
              {!found.straight_enough && (
                <Notice kind="caution">
                  <Trans>
                    The rim runs out by {figure(found.lateral_tir_mm, 1)} mm: dish is judged only on a wheel
                    that is straight. The whole plan brings both at once.
                  </Trans>
                </Notice>
              )}
              <ul className="flex flex-col gap-2">
                {found.options.map((option) => (
                  <li key={option.key} className="flex items-center gap-4 border-t border-line pt-2">
                    <div className="flex-1">
                      <p className="font-bold">
                        {option.name}
                        {option.proposed && (
                          <span className="ml-2 rounded-sm bg-sunk px-2 text-sm">
                            <Trans>proposed</Trans>
                          </span>
                        )}
                        {option.over_cap && (
                          <span className="ml-2 text-sm text-danger">
                            <Trans>above the rim&rsquo;s limit</Trans>
                          </span>
                        )}
                      </p>
                      <p className="flex items-center gap-2">
                        <Turn side="right" turns={option.right_turns} />
                        <Turn side="left" turns={option.left_turns} />
                      </p>
                      <p className="text-sm text-muted">
                        <Trans>
                          dish after {signed(option.dish_after_mm, 2)} mm; means{" "}
                          {shownForce(option.right_mean_n, unit)} right,{" "}
                          {shownForce(option.left_mean_n, unit)} left, {unit}
                        </Trans>
                      </p>
                    </div>
                    <Button
                      weight={option.proposed ? "now" : "plain"}
                      disabled={make.pending || option.over_cap}
                      onClick={() => make.go(option.key)}
                    >
                      <Trans>
                        Make it the plan<span className="sr-only">: {option.name}</span>
                      </Trans>
                    </Button>
                  </li>
                ))}
              </ul>
            </>
          )}
          <Despite refused={make.refused} value={despite} onChange={setDespite} />
          <WriteState of={make} />
        </div>
      </Dialog>
    </>
  );
}

function Turn({ side, turns }: { side: string; turns: number }) {
  if (turns === 0) return null;
  return (
    <span className="inline-flex items-center gap-1">
      <Trans>
        {turns > 0 ? "▲ tighten" : "▽ ease"} every {side} nipple <Fraction text={turnsText(turns)} />
      </Trans>
    </span>
  );
}
