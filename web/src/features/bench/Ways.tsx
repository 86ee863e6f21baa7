import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import type { ForceUnit } from "@/ui/forces";
import { Menu, MenuItem } from "@/ui/Menu";
import { FileDialog } from "./FileDialog";
import { ListenDialog } from "./ListenDialog";
import { LumpDialog } from "./LumpDialog";
import { wholeTurn } from "./wholeTurn";

interface WaysProps {
  set: Schemas["ReadingSetDetail"];
  derived: Schemas["Derived"];
  meters: readonly Schemas["Meter"][];
  spoke: string;
  unit: ForceUnit;
  onDone: () => void;
  /** Something lies over the bench: nothing is to be taken by itself meanwhile. */
  onOver: (over: boolean) => void;
  /** What is open; the ten keys open it as well. */
  way: Way;
  onWay: (way: Way) => void;
}

export type Way = "" | "file" | "listen" | "lump" | "traces";

/** Other ways to read: by ear, from a file, a lump by eye, a whole turn past a dial that streams. */
export function Ways({ set, derived, meters, spoke, unit, onDone, onOver, way, onWay: setWay }: WaysProps) {
  const known = new Map(
    set.readings
      .filter((r) => r.kind === "tension" && (r.entered as Record<string, unknown>)["unit"] === "meter")
      .map((r) => [r.spoke ?? "", r.value]),
  );
  const [menu, setMenu] = useState(false);
  // Choosing from the menu closes it in the same breath as it opens a dialog: both are looked at together.
  const over = menu || way !== "";
  useEffect(() => onOver(over), [over, onOver]);
  const close = () => setWay("");
  return (
    <>
      <Menu label={say`Other ways to read`} trigger={say`Other ways`} onOpenChange={setMenu}>
        <MenuItem onSelect={() => setWay("listen")}>
          <Trans>By ear: pluck a side</Trans>
        </MenuItem>
        <MenuItem onSelect={() => setWay("lump")}>
          <Trans>A lump, by eye</Trans>
        </MenuItem>
        <MenuItem onSelect={() => setWay("file")}>
          <Trans>A file, in or out</Trans>
        </MenuItem>
        <MenuItem onSelect={() => setWay("traces")}>
          <Trans>A whole turn, and what was traced</Trans>
        </MenuItem>
      </Menu>
      {way === "file" && (
        <FileDialog setId={set.id} derived={derived} meters={meters} onClose={close} onDone={onDone} />
      )}
      {way === "listen" && (
        <ListenDialog setId={set.id} derived={derived} known={known} unit={unit} onClose={close} />
      )}
      {way === "lump" && (
        <LumpDialog
          spoke={spoke}
          send={(body, head) =>
            answer(
              client.POST("/api/v1/reading-sets/{set_id}/lumps", {
                params: { path: { set_id: set.id } },
                ...head,
                body,
              }),
            )
          }
          onClose={close}
          onDone={onDone}
        />
      )}
      {way === "traces" && <TurnDialog setId={set.id} onClose={close} onDone={onDone} />}
    </>
  );
}

/** A dial that streams, once round; and every trace and lump of the set, to be taken back. */
function TurnDialog({ setId, onClose, onDone }: { setId: string; onClose: () => void; onDone: () => void }) {
  const instruments = useQuery(ask.instruments());
  const advice = useQuery(ask.advice(setId));
  const streaming = (instruments.data ?? []).filter((i) => i.address);
  const turn = useWrite({
    send: ({ instrument, kind }: { instrument: string; kind: Schemas["DialKindEnum"] }, head) =>
      wholeTurn<Schemas["TurnHeard"], Schemas["DialTrace"]>(
        () =>
          answer(
            client.POST("/api/v1/reading-sets/{set_id}/turns", {
              params: { path: { set_id: setId } },
              ...head,
              body: { instrument, kind },
            }),
          ),
        (heard) => "id" in heard,
      ),
    onSaved: onDone,
  });
  const back = useWrite({
    send: (trace_id: string, head) =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/traces/{trace_id}/withdraw", {
          params: { path: { set_id: setId, trace_id } },
          ...head,
        }),
      ),
    onSaved: onDone,
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`A whole turn past the dial`}
      lead={say`Start it, then turn the wheel slowly once round. The dial's zero may lie anywhere.`}
    >
      <div className="flex flex-col gap-3">
        <IfFailed of={instruments} />
        <IfFailed of={advice} />
        {streaming.length === 0 && instruments.data && (
          <p>
            <Trans>No instrument streams here. Give one its address on the page of the instruments.</Trans>
          </p>
        )}
        {streaming.map((i) => (
          <div key={i.id} className="flex items-center gap-3">
            <span className="flex-1 font-bold">{i.name}</span>
            {(["lateral", "radial"] as const).map((kind) => (
              <Button key={kind} disabled={turn.pending} onClick={() => turn.go({ instrument: i.id, kind })}>
                <Trans>Trace {word(kind)}</Trans>
              </Button>
            ))}
          </div>
        ))}
        {turn.pending && (
          <p role="status">
            <Trans>Listening: turn the wheel.</Trans>
          </p>
        )}
        <WriteState of={turn} />
        <ul aria-label={say`Traces of this set`}>
          {(advice.data?.traces ?? []).map((t) => (
            <li key={t.id} className="flex items-center gap-3 border-t border-line py-1">
              <span className="flex-1">
                <strong>{word(t.kind)}</strong> {t.said} <span className="text-sm text-muted">{t.by}</span>
              </span>
              <Button weight="quiet" className="text-sm" onClick={() => back.go(t.id)}>
                <Trans>
                  take back<span className="sr-only">: {t.said}</span>
                </Trans>
              </Button>
            </li>
          ))}
        </ul>
      </div>
    </Dialog>
  );
}
