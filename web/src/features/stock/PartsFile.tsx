import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useWrite, WriteState } from "@/write/useWrite";
import { useState } from "react";
import { answer, client } from "@/api/client";
import { Button } from "@/ui/Button";
import { useStock } from "./useStock";

/** The parts library out and in as CSV: looked at before anything is saved, and all of it or nothing. */
export function PartsFile() {
  const writes = useStock();
  const [text, setText] = useState("");
  const look = useWrite({
    send: (content: string) =>
      answer(client.POST("/api/v1/stock/library/preview", { body: { text: content } })),
  });
  const rows = look.data ?? [];
  const wrong = rows.filter((r) => r.does === "wrong");
  const does = rows.filter((r) => r.does === "new" || r.does === "changed");
  return (
    <div className="flex max-w-3xl flex-col gap-4">
      <section aria-label={say`Out`} className="flex flex-col gap-2">
        <h2>
          <Trans>Out</Trans>
        </h2>
        <p>
          <Trans>
            Every part with its bin, its figures and its dimensions: one row each, a column per dimension
            (docs/formats/parts-csv.md).
          </Trans>
        </p>
        <a
          className="inline-flex min-h-12 w-fit items-center rounded-sm border border-line-strong bg-plate px-4"
          href="/api/v1/stock/library.csv"
          download
        >
          <Trans>Parts library as CSV</Trans>
        </a>
      </section>
      <section aria-label={say`In`} className="flex flex-col gap-2">
        <h2>
          <Trans>In</Trans>
        </h2>
        <label className="flex flex-col gap-1 text-sm font-bold">
          <Trans>
            A parts library as CSV
            <input
              type="file"
              accept=".csv,text/csv"
              className="min-h-12 font-normal"
              onChange={(event) => {
                const file = event.target.files?.[0];
                writes.take_in.reset();
                if (file)
                  void file.text().then((content) => {
                    setText(content);
                    look.go(content);
                  });
              }}
            />
          </Trans>
        </label>
        <WriteState of={look} />
        {rows.length > 0 && (
          <>
            <p className="text-lg font-bold" aria-live="polite">
              {wrong.length
                ? say`${wrong.length} of ${rows.length} rows are wrong: nothing can be taken in until they are mended.`
                : say`${does.length} of ${rows.length} rows would change something.`}
            </p>
            <ul className="max-h-72 overflow-y-auto text-sm" tabIndex={0} aria-label={say`Rows`}>
              {[...wrong, ...rows.filter((r) => r.does !== "wrong")].map((r) => (
                <li
                  key={r.line}
                  className={`border-t border-line ${r.does === "wrong" ? "font-bold text-danger" : ""}`}
                >
                  <Trans>
                    line {r.line}: {r.name || say`no name`}, {r.does}
                    {r.wrong && `: ${r.wrong}`}
                  </Trans>
                </li>
              ))}
            </ul>
            <Button
              weight="now"
              className="w-fit"
              disabled={
                wrong.length > 0 || does.length === 0 || writes.take_in.pending || writes.take_in.saved
              }
              onClick={() => writes.take_in.go(text)}
            >
              <Trans>Take them in</Trans>
            </Button>
          </>
        )}
        {writes.take_in.data && (
          <p role="status">
            <Trans>{writes.take_in.data.touched} parts made or changed.</Trans>
          </p>
        )}
        <WriteState of={writes.take_in} />
      </section>
    </div>
  );
}
