import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import { keys, touches } from "@/api/keys";
import { useWrite } from "@/write/useWrite";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { zodResolver } from "@hookform/resolvers/zod";
import { useForm, useWatch } from "react-hook-form";
import { useNavigate, useParams } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { JobHead } from "@/app/JobHead";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { PickField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { CrossSection } from "./CrossSection";
import { Derived } from "./Derived";
import { LibraryParts } from "./LibraryParts";
import { MeasureDialog } from "./MeasureDialog";
import { type Draft, draftOf, type School, specificationOf } from "./draft";
import { type PartsForm, partsSchema, refusals } from "./partsForm";
import { KeepPattern } from "@/features/shop/Patterns";
import { RecordIn } from "./RecordIn";
import { SpokesForm } from "./SpokesForm";
import { StiffnessDialog } from "./StiffnessDialog";

export default function PartsPage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const kinds = useQuery(ask.kinds());
  if (!job.data || !kinds.data) return <NotYet of={[job, kinds]} what={say`the parts of the wheel`} />;
  return <Parts key={job.data.wheel.version} job={job.data} kinds={kinds.data} />;
}

function Parts({ job, kinds }: { job: Schemas["Job"]; kinds: readonly Schemas["WheelKind"][] }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const wheel = job.wheel;
  const [base, setBase] = useState(wheel.specification);
  const [stiff, setStiff] = useState(false);
  const [measuring, setMeasuring] = useState("");
  const form = useForm<PartsForm>({
    resolver: zodResolver(partsSchema),
    defaultValues: {
      kind: wheel.kind ?? "",
      school: "center",
      draft: draftOf(wheel.specification),
      sds: Object.fromEntries(Object.entries(wheel.uncertainty_mm).map(([path, sd]) => [path, String(sd)])),
    },
  });
  const said = useWatch({ control: form.control }) as PartsForm;
  const { kind, school, draft, sds } = said;
  const setDraft = (next: (was: Draft) => Draft) => form.setValue("draft", next(form.getValues("draft")));
  const setSds = (next: (was: Draft) => Draft) => form.setValue("sds", next(form.getValues("sds")));
  const specification = specificationOf(useDeferredValue(draft), base);
  const uncertainty_mm = numbersOf(useDeferredValue(sds));
  const may = useMay();
  const [keeping, setKeeping] = useState(false);
  const check = useQuery({
    queryKey: keys.sum("geometry", specification, uncertainty_mm),
    queryFn: () => answer(client.POST("/api/v1/geometry", { body: { specification, uncertainty_mm } })),
    placeholderData: (old) => old,
    retry: false,
  });
  const save = useWrite({
    touches: touches.job(job.id),
    send: ({ version, whole }: { version: number; whole: PartsForm }, head) =>
      answer(
        client.PATCH("/api/v1/wheels/{wheel_id}", {
          params: { path: { wheel_id: wheel.id } },
          ...head,
          body: {
            version,
            kind: whole.kind,
            specification: specificationOf(whole.draft, base),
            uncertainty_mm: numbersOf(whole.sds),
          },
        }),
      ),
    onSaved: async () => {
      await navigate(`/jobs/${job.id}`);
    },
  });
  const problem = [save.error, check.error].find((e) => e instanceof Problem);
  const submit = (version: number) => void form.handleSubmit((whole) => save.go({ version, whole }))();
  const unread = refusals(said);
  const errorAt = (path: string) =>
    unread[path] ?? problem?.errors.find((e) => e.field === `specification.${path}`)?.message;
  const unplaced =
    problem?.errors.filter((e) => !(e.field.replace("specification.", "") in draft) && !isFlange(e.field)) ??
    [];
  const stale = save.error instanceof Problem && save.error.code === "stale_write" ? save.error : null;

  const change = (path: string, value: string) => setDraft((d) => ({ ...d, [path]: value }));
  const changeSchool = (next: School) => {
    if (next === school) return;
    const half = Number(draft["hub.old_mm"] ?? 0) / 2;
    const [was, will] = next === "locknut" ? ["center", "locknut"] : ["locknut", "center"];
    setDraft((d) => {
      const out: Record<string, string> = { ...d };
      for (const side of ["right", "left"]) {
        const value = typedNumber(out[`hub.${side}.${was}_to_flange_mm`] ?? "") ?? NaN;
        delete out[`hub.${side}.${was}_to_flange_mm`];
        out[`hub.${side}.${will}_to_flange_mm`] = String(Math.round((half - value) * 100) / 100);
      }
      return out;
    });
    setSds((s) => (next === "center" ? withoutLocknuts(s) : withLocknuts(s, check.data?.uncertainty_mm)));
    form.setValue("school", next);
  };
  const start = (key: string) => {
    const chosen = kinds.find((k) => k.key === key);
    form.setValue("kind", key);
    if (!chosen) return;
    setBase(chosen.specification);
    setDraft(() => draftOf(chosen.specification));
    form.setValue("school", "center");
  };

  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job} title={say`Parts of the wheel`}>
        <Button weight="now" onClick={() => submit(wheel.version)} disabled={save.pending || check.isError}>
          <Trans>Save the wheel</Trans>
        </Button>
      </JobHead>
      <div className="grid flex-1 grid-cols-[minmax(0,1fr)_330px] gap-6 p-4 max-md:grid-cols-1 max-sm:p-2">
        <div className="flex min-w-0 flex-col gap-2">
          <div className="flex flex-wrap items-end gap-4">
            <PickField
              label={say`Start from a generic kind`}
              value={kind}
              onChange={start}
              options={[
                { value: "", text: say`measured, no kind` },
                ...kinds.map((k) => ({ value: k.key, text: k.name })),
              ]}
              className="w-96"
            />
            <Choice
              label={say`Flanges measured from`}
              value={school}
              onChange={changeSchool}
              small
              options={[
                { value: "center", text: say`from the centre` },
                { value: "locknut", text: say`from the locknut` },
              ]}
              className="mb-6"
            />
          </div>
          <CrossSection
            draft={draft}
            school={school}
            errorAt={errorAt}
            onChange={change}
            sds={sds}
            usualSds={check.data?.uncertainty_mm ?? {}}
            onSd={(path, value) => setSds((s) => ({ ...s, [path]: value }))}
            doubtAt={(path) => check.data?.suspicions.find((s) => s.field === path)?.why}
            onMeasure={setMeasuring}
          />
          <SpokesForm draft={draft} errorAt={errorAt} onChange={change} />
        </div>
        <div className="flex flex-col gap-3">
          {stale && (
            <Notice kind="refusal">
              <Trans>
                {nameIn(stale)} changed this wheel meanwhile.{" "}
                <button
                  type="button"
                  className="underline"
                  onClick={() => submit(Number(stale.current?.["version"]))}
                >
                  Save mine over it
                </button>{" "}
                or{" "}
                <button
                  type="button"
                  className="underline"
                  onClick={() => void queries.invalidateQueries({ queryKey: keys.job(job.id) })}
                >
                  take theirs
                </button>
                .
              </Trans>
            </Notice>
          )}
          {unplaced.map((e) => (
            <Notice key={e.field + e.message} kind="refusal">
              {e.message}
            </Notice>
          ))}
          {save.error && !stale && unplaced.length === 0 && (
            <Notice kind="refusal">{sentenceOf(save.error)}</Notice>
          )}
          {check.data?.suspicions
            .filter((s) => !PLACED.has(s.field))
            .map((s) => (
              <Notice key={s.field} kind="caution">
                {s.why}
              </Notice>
            ))}
          {check.data && <Derived derived={check.data} doubtful={check.isError} />}
          <LibraryParts
            draft={draft}
            specification={specification}
            onFill={(values) => {
              form.setValue("school", "center");
              setDraft((d) => withoutLocknuts({ ...d, ...values }));
            }}
          />
          {measuring && (
            <MeasureDialog
              path={measuring}
              holes={Number(draft["right.count"]) + Number(draft["left.count"])}
              stagger={Number(draft["rim.stagger_mm"] ?? 0)}
              hole={draft[`${measuring.replace(/[^.]+$/, "")}hole_diameter_mm`] ?? "2.6"}
              onClose={() => setMeasuring("")}
              onTake={(value, sd) => {
                change(measuring, value);
                setSds((s) => ({ ...s, [measuring]: sd }));
                setMeasuring("");
              }}
            />
          )}
          <Button onClick={() => setStiff(true)}>
            <Trans>How stiff is this rim?</Trans>
          </Button>
          {stiff && (
            <StiffnessDialog
              specification={specificationOf(draft, base)}
              onClose={() => setStiff(false)}
              onTake={(found) => {
                setDraft((d) => ({
                  ...d,
                  "rim.ea_n": String(found.ea_n),
                  "rim.ei_lat_nm2": String(found.ei_lat_nm2),
                  "rim.ei_rad_nm2": String(found.ei_rad_nm2),
                  "rim.gj_nm2": String(found.gj_nm2),
                }));
                setStiff(false);
              }}
            />
          )}
          <RecordIn job={job} />
          {may("pattern_keep") && (
            <Button className="self-start" onClick={() => setKeeping(true)}>
              <Trans>Keep as a pattern …</Trans>
            </Button>
          )}
          {keeping && <KeepPattern wheelId={wheel.id} onClose={() => setKeeping(false)} />}
        </div>
      </div>
    </main>
  );
}

/** Dimensions whose doubts are shown on the drawing itself. */
const PLACED = new Set([
  "rim.erd_mm",
  "rim.spoke_bed_offset_mm",
  "hub.old_mm",
  "hub.right.pitch_circle_mm",
  "hub.left.pitch_circle_mm",
  "hub.right.center_to_flange_mm",
  "hub.left.center_to_flange_mm",
]);

function numbersOf(sds: Draft): Record<string, number> {
  const out: Record<string, number> = {};
  for (const [path, text] of Object.entries(sds)) {
    const value = typedNumber(text) ?? NaN;
    if (text.trim() !== "" && Number.isFinite(value)) out[path] = value;
  }
  return out;
}

/** Measured from the locknuts, each flange has an uncertainty of its own that the width's comes to. */
function withLocknuts(sds: Draft, usual: Record<string, number> | undefined): Draft {
  const out: Record<string, string> = { ...sds };
  for (const side of ["right", "left"]) {
    const center = `hub.${side}.center_to_flange_mm`;
    out[`hub.${side}.locknut_to_flange_mm`] = out[center] ?? String(usual?.[center] ?? "");
  }
  return out;
}

function withoutLocknuts(draft: Draft): Draft {
  return Object.fromEntries(Object.entries(draft).filter(([path]) => !path.endsWith("locknut_to_flange_mm")));
}

function nameIn(stale: Problem): string {
  const name = stale.current?.["changed_by"];
  return typeof name === "string" && name ? name : say`Somebody`;
}

function isFlange(field: string): boolean {
  return /(center|locknut)_to_flange_mm$/.test(field);
}
