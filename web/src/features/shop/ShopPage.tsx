import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { LinesField, PickField, TextField } from "@/ui/Field";
import { LANGUAGES } from "@/features/customers/languages";
import { Trail } from "@/features/records/Trail";
import { typedNumber } from "@/ui/number";
import { NotYet } from "@/ui/NotYet";
import { NumberField } from "@/ui/NumberField";
import { useWrite, WriteState } from "@/write/useWrite";
import { Backups } from "./Backups";
import { CalendarFeed } from "./CalendarFeed";
import { Hours } from "./Hours";
import { Patterns } from "./Patterns";
import { PlacesList } from "./PlacesList";
import { SigningKeys } from "./SigningKeys";
import { StaffList } from "./StaffList";
import { Tiers } from "./Tiers";

/** What holds in this shop: who, when, where, and its own rules; the owner changes it, everybody may look. */
export default function ShopPage() {
  const shop = useQuery(ask.shop());
  const hours = useQuery(ask.hours());
  const may = useMay();
  // A form begins anew with what was saved; that it was saved outlives it.
  const [savedAs, setSavedAs] = useState<string | null>(null);
  if (!shop.data || !hours.data) return <NotYet of={[shop, hours]} what={say`the shop`} />;
  const owner = may("shop_set");
  return (
    <main className="mx-auto grid w-full max-w-6xl gap-x-10 gap-y-8 p-4 lg:grid-cols-2">
      <h1 className="lg:col-span-2">
        <Trans>Shop and staff</Trans>
        {!owner && (
          <span className="ml-3 text-base font-normal text-muted">
            <Trans>Only the owner changes what stands here.</Trans>
          </span>
        )}
      </h1>
      <div className="flex min-w-0 flex-col gap-8">
        <Settings
          key={contentOf(shop.data)}
          shop={shop.data}
          owner={owner}
          saved={savedAs === contentOf(shop.data)}
          onSaved={(row) => setSavedAs(contentOf(row))}
        />
        <PlacesList owner={may("place_add")} />
        <CalendarFeed owner={may("feed_renew")} />
        {may("backups") && <Backups />}
      </div>
      <div className="flex min-w-0 flex-col gap-8">
        <Hours
          key={contentOf(hours.data)}
          hours={hours.data}
          owner={may("hours_set")}
          saved={savedAs === contentOf(hours.data)}
          onSaved={(row) => setSavedAs(contentOf(row))}
        />
        <StaffList owner={may("staff_all")} />
        <Tiers owner={may("tier_set")} />
        <Patterns />
        <SigningKeys owner={may("signing_key_change")} />
        <Trail of="settings" />
      </div>
    </main>
  );
}

/** One form's saving raises the version of both: what is half typed in the other stays. */
const contentOf = (row: { version?: number }) => JSON.stringify({ ...row, version: 0 });

const TEXTS = ["name", "address", "phone", "email"] as const;
const KEPT = ["keep_photos_months", "keep_letters_months", "keep_customers_months"] as const;
const PERCENT = { min: 0, max: 99, whole: true, unit: "%" };

interface SettingsProps {
  shop: Schemas["Shop"];
  owner: boolean;
  saved: boolean;
  onSaved: (row: Schemas["Shop"]) => void;
}

function Settings({ shop, owner, saved, onSaved }: SettingsProps) {
  const [text, setText] = useState({
    name: shop.name,
    address: shop.address ?? "",
    phone: shop.phone ?? "",
    email: shop.email ?? "",
  });
  const [months, setMonths] = useState({
    keep_photos_months: String(shop.keep_photos_months ?? 0),
    keep_letters_months: String(shop.keep_letters_months ?? 0),
    keep_customers_months: String(shop.keep_customers_months ?? 0),
  });
  const [line, setLine] = useState(String(shop.promise_line_percent));
  const [letters, setLetters] = useState<Record<string, string>>({ ...shop.letter_texts });
  const [language, setLanguage] = useState(shop.language ?? "en");
  const [tagText, setTagText] = useState(shop.tag_text ?? "");
  const [interrupted, setInterrupted] = useState(String(shop.interrupted_percent));
  const save = useWrite({
    touches: touches.shop(),
    fills: () => keys.shop(),
    onSaved,
    send: (body: Schemas["ShopRequest"], head) =>
      answer(client.PUT("/api/v1/shop/settings", { ...head, body })),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go({
      ...text,
      language,
      letter_texts: letters,
      tag_text: tagText,
      keep_photos_months: typedNumber(months.keep_photos_months) ?? -1,
      keep_letters_months: typedNumber(months.keep_letters_months) ?? -1,
      keep_customers_months: typedNumber(months.keep_customers_months) ?? -1,
      promise_line_percent: typedNumber(line) ?? 0,
      interrupted_percent: typedNumber(interrupted) ?? -1,
      version: shop.version ?? 1,
    });
  };
  const labels = {
    name: say`Name`,
    address: say`Address`,
    phone: say`Telephone`,
    email: say`E-mail`,
    keep_photos_months: say`Photos, after the wheel left`,
    keep_letters_months: say`Texts of letters`,
    keep_customers_months: say`Names, after the last visit`,
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-2">
      <h2>
        <Trans>The shop</Trans>
      </h2>
      {TEXTS.map((name) => (
        <TextField
          key={name}
          label={labels[name]}
          value={text[name]}
          disabled={!owner}
          onChange={(value) => setText((t) => ({ ...t, [name]: value }))}
          error={save.refused?.for(name)}
        />
      ))}
      <div className="grid grid-cols-2 gap-4">
        <NumberField
          label={say`Promise from a chance of, %`}
          {...PERCENT}
          min={50}
          value={line}
          disabled={!owner}
          onChange={setLine}
          help={say`Below it a promise counts as in danger`}
          error={save.refused?.for("promise_line_percent")}
        />
        <NumberField
          label={say`Share of other work, %`}
          {...PERCENT}
          max={70}
          value={interrupted}
          disabled={!owner}
          onChange={setInterrupted}
          help={say`Of a shift at the bench: counter, telephone, deliveries`}
          error={save.refused?.for("interrupted_percent")}
        />
      </div>
      <h3 className="mt-2 text-sm font-bold">
        <Trans>How long things are kept</Trans>
      </h3>
      <p className="text-sm text-muted">
        <Trans>In months; 0 keeps them. Each night goes what is over.</Trans>
      </p>
      <div className="grid grid-cols-3 items-end gap-4">
        {KEPT.map((name) => (
          <NumberField
            key={name}
            label={labels[name]}
            whole
            max={240}
            min={0}
            value={months[name]}
            disabled={!owner}
            onChange={(value) => setMonths((m) => ({ ...m, [name]: value }))}
            error={save.refused?.for(name)}
          />
        ))}
      </div>
      <PickField
        label={say`New customers are written to in`}
        value={language}
        disabled={!owner}
        onChange={setLanguage}
        options={LANGUAGES}
        error={save.refused?.for("language")}
      />
      <h3 className="mt-2 text-sm font-bold">
        <Trans>The shop’s own words</Trans>
      </h3>
      <p className="text-sm text-muted">
        <Trans>
          Under every letter and on the customer’s page, in their language; none where none is written.
        </Trans>
      </p>
      {LANGUAGES.map(({ value, text: called }) => (
        <LinesField
          key={value}
          label={called}
          lang={value}
          maxLength={500}
          value={letters[value] ?? ""}
          disabled={!owner}
          onChange={(words) => setLetters((l) => ({ ...l, [value]: words }))}
          error={
            save.refused?.for(`letter_texts.${value}`) ??
            (value === "en" ? save.refused?.for("letter_texts") : undefined)
          }
        />
      ))}
      <TextField
        label={say`At the foot of every tag`}
        value={tagText}
        disabled={!owner}
        maxLength={200}
        onChange={setTagText}
        error={save.refused?.for("tag_text")}
      />
      <WriteState
        of={save}
        fields={[
          ...TEXTS,
          ...KEPT,
          "promise_line_percent",
          "interrupted_percent",
          "language",
          "letter_texts",
          "tag_text",
        ]}
      />
      {owner && (
        <div>
          <Button type="submit" disabled={save.pending}>
            <Trans>Save the shop</Trans>
          </Button>
          {(save.saved || saved) && (
            <span className="ml-3 text-muted">
              <Trans>Saved.</Trans>
            </span>
          )}
        </div>
      )}
    </form>
  );
}
