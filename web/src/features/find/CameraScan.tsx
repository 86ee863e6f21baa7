import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useRef, useState } from "react";
import { Notice } from "@/ui/Notice";
import { jobOnTag } from "./scan";

interface Reads {
  detect: (source: HTMLVideoElement) => Promise<readonly { rawValue: string }[]>;
}
type MakesReader = new (options: { formats: string[] }) => Reads;

function reader(): MakesReader | undefined {
  return (globalThis as { BarcodeDetector?: MakesReader }).BarcodeDetector;
}

/** Whether this browser can read a code through its camera. */
export function cameraReads(): boolean {
  // A page that did not come over a safe way has no camera at all.
  return Boolean(reader()) && "mediaDevices" in navigator;
}

/** The camera, looking for a tag; a code that is no tag of ours is said to be none. */
export function CameraScan({ onTag }: { onTag: (jobId: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const tell = useRef(onTag);
  const [wrong, setWrong] = useState("");
  useEffect(() => {
    tell.current = onTag;
  }, [onTag]);
  useEffect(() => {
    const Reader = reader();
    if (!Reader) return;
    let stopped = false;
    let stream: MediaStream | undefined;
    const look = async () => {
      try {
        stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
      } catch {
        if (!stopped)
          setWrong(say`The camera is not to be had: allow it in the browser, or type the number.`);
        return;
      }
      const screen = video.current;
      if (stopped || !screen) return stream.getTracks().forEach((track) => track.stop());
      screen.srcObject = stream;
      await screen.play();
      const codes = new Reader({ formats: ["qr_code"] });
      const next = async () => {
        if (stopped) return;
        const found = await codes.detect(screen).catch(() => []);
        const job = found.map((code) => jobOnTag(code.rawValue)).find(Boolean);
        if (stopped) return;
        if (job) return tell.current(job);
        if (found.length) setWrong(say`This code is no job's tag.`);
        requestAnimationFrame(() => void next());
      };
      await next();
    };
    void look();
    return () => {
      stopped = true;
      stream?.getTracks().forEach((track) => track.stop());
    };
  }, []);
  return (
    <div className="flex flex-col gap-2 p-3">
      <video ref={video} muted playsInline className="max-h-[40dvh] w-full rounded-sm bg-ink" />
      <p className="text-sm text-muted">
        <Trans>Hold the tag&rsquo;s code before the camera.</Trans>
      </p>
      {wrong && <Notice kind="refusal">{wrong}</Notice>}
    </div>
  );
}
