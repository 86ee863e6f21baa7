import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas, writeKey } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Fraction } from "@/ui/Fraction";
import { type ForceUnit, shownForce, signed } from "@/ui/forces";
import { Notice } from "@/ui/Notice";
import { turnsText } from "./turns";

interface DishDialogProps {
  jobId: string;
  setId: string;
  unit: ForceUnit;
}

/** Correct dish alone: every nipple of a side alike, by the side that also brings the tension right. */
export function DishDialog({ jobId, setId, unit }: DishDialogProps) {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const advice = useQuery({ ...ask.dishOptions(setId), enabled: open });
  const make = useMutation({
    mutationFn: (dish_option: Schemas["DishOption"]["key"]) =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/plans", {
          params: { path: { set_id: setId } },
          headers: { "Idempotency-Key": writeKey() },
          body: { dish_option },
        }),
      ),
    onSuccess: async (plan) => {
      queries.setQueryData(["plan", plan.id], plan);
      await queries.invalidateQueries({ queryKey: ["plans", jobId] });
      await navigate(`/jobs/${jobId}/plan/${plan.id}`);
    },
  });
  const found = advice.data;
  return (
    <>
      <Button onClick={() => setOpen(true)}>Dish alone</Button>
      <Dialog
        open={open}
        onOpenChange={setOpen}
        title="Correct the dish alone"
        lead="Before turning spokes: was the hub apart? Wrongly placed spacers shift the axle."
      >
        <div className="flex flex-col gap-4">
          {advice.isError && <Notice kind="refusal">{sentenceOf(advice.error)}</Notice>}
          {found && (
            <>
              <p>
                The rim sits{" "}
                <strong className="font-figure">
                  {signed(found.dish_mm, 2)} ± {found.dish_sd_mm.toFixed(2)} mm
                </strong>{" "}
                (+ right). {found.reason}
              </p>
              {!found.straight_enough && (
                <Notice kind="caution">
                  The rim runs out by {found.lateral_tir_mm.toFixed(1)} mm: dish is judged only on a wheel
                  that is straight. The whole plan brings both at once.
                </Notice>
              )}
              <ul className="flex flex-col gap-2">
                {found.options.map((option) => (
                  <li key={option.key} className="flex items-center gap-4 border-t border-line pt-2">
                    <div className="flex-1">
                      <p className="font-bold">
                        {option.name}
                        {option.proposed && (
                          <span className="ml-2 rounded-sm bg-sunk px-2 text-sm">proposed</span>
                        )}
                        {option.over_cap && (
                          <span className="ml-2 text-sm text-danger">above the rim&rsquo;s limit</span>
                        )}
                      </p>
                      <p className="flex items-center gap-2">
                        <Turn side="right" turns={option.right_turns} />
                        <Turn side="left" turns={option.left_turns} />
                      </p>
                      <p className="text-sm text-muted">
                        dish after {signed(option.dish_after_mm, 2)} mm; means{" "}
                        {shownForce(option.right_mean_n, unit)} right, {shownForce(option.left_mean_n, unit)}{" "}
                        left, {unit}
                      </p>
                    </div>
                    <Button
                      weight={option.proposed ? "now" : "plain"}
                      disabled={make.isPending || option.over_cap}
                      onClick={() => make.mutate(option.key)}
                    >
                      Make it the plan<span className="sr-only">: {option.name}</span>
                    </Button>
                  </li>
                ))}
              </ul>
            </>
          )}
          {make.isError && <Notice kind="refusal">{sentenceOf(make.error)}</Notice>}
        </div>
      </Dialog>
    </>
  );
}

function Turn({ side, turns }: { side: string; turns: number }) {
  if (turns === 0) return null;
  return (
    <span className="inline-flex items-center gap-1">
      {turns > 0 ? "▲ tighten" : "▽ ease"} every {side} nipple <Fraction text={turnsText(turns)} />
    </span>
  );
}
