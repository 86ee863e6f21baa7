import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { dayAndTime } from "@/ui/when";
import { SignDialog } from "./SignDialog";

/** At the counter: the tag, photos of the wheel, and who brought it. */
export function Counter({ job }: { job: Schemas["Job"] }) {
  const photos = useQuery(ask.photos(job.id));
  const tag = useQuery(ask.tag(job.id));
  const picker = useRef<HTMLInputElement>(null);
  const [shown, setShown] = useState<Schemas["Photo"] | null>(null);
  const [signing, setSigning] = useState(false);
  const send = useWrite({
    touches: touches.job(job.id),
    send: (file: File, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/photos", {
          params: { path: { job_id: job.id }, query: { caption: "" } },
          headers: { ...head.headers, "Content-Type": file.type || "image/jpeg" },
          body: file as unknown as string,
          bodySerializer: (body: unknown) => body as BodyInit,
        }),
      ),
  });
  const brought = tag.data?.signatures.find((s) => s.purpose === "brought");
  const open = !job.handed_back_at;
  return (
    <section aria-label={say`At the counter`} className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-3 text-sm">
        <Link className="tap underline underline-offset-4" to={`/jobs/${job.id}/tag`}>
          <Trans>Tag to print</Trans>
        </Link>
        {open && (
          <Button className="text-sm" onClick={() => picker.current?.click()} disabled={send.pending}>
            {send.pending ? say`Sending …` : say`Add a photo`}
          </Button>
        )}
        {open && !brought && (
          <Button className="text-sm" onClick={() => setSigning(true)}>
            <Trans>Sign</Trans>
          </Button>
        )}
        <input
          ref={picker}
          type="file"
          accept="image/jpeg,image/png,image/webp"
          capture="environment"
          aria-label={say`Photo of the wheel`}
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) send.go(file);
            event.target.value = "";
          }}
        />
      </div>
      {brought && (
        <p className="text-sm text-muted">
          <Trans>
            Brought by {brought.name}, {dayAndTime(brought.created_at)}
          </Trans>
        </p>
      )}
      <WriteState of={send} />
      <IfFailed of={photos} />
      <IfFailed of={tag} />
      {(photos.data?.length ?? 0) > 0 && (
        <ul className="flex flex-wrap gap-2">
          {photos.data?.map((p, i) => (
            <li key={p.id}>
              <button
                type="button"
                onClick={() => setShown(p)}
                aria-label={say`Photo ${i + 1}${p.caption ? `, ${p.caption}` : ""}`}
              >
                <img
                  src={`/api/v1/photos/${p.id}`}
                  alt=""
                  className="size-20 rounded-sm border border-line-strong object-cover"
                />
              </button>
            </li>
          ))}
        </ul>
      )}
      {shown && (
        <Dialog
          open
          onOpenChange={() => setShown(null)}
          title={shown.caption || say`Photo of the wheel`}
          lead={`${shown.by}, ${dayAndTime(shown.created_at)}`}
        >
          <img
            src={`/api/v1/photos/${shown.id}`}
            alt={shown.caption || say`Photo of the wheel`}
            className="w-full"
          />
        </Dialog>
      )}
      {signing && <SignDialog job={job} onClose={() => setSigning(false)} />}
    </section>
  );
}
