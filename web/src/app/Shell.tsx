import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, Outlet, useLocation, useNavigate } from "react-router";
import { answer, client, type Schemas, speaksFor } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { isSessionOver, Unreachable } from "@/api/problem";
import { ask } from "@/api/queries";
import { useContact } from "@/app/contact";
import { ErrorBoundary } from "@/app/ErrorBoundary";
import { SessionPlace } from "@/app/SessionPlace";
import { chooseTheme, storedTheme, THEMES } from "@/app/theme";
import { ChangePerson } from "@/features/accounts/ChangePerson";
import { OwnDigits } from "@/features/accounts/OwnDigits";
import { SignIn } from "@/features/accounts/SignIn";
import { Find } from "@/features/find/Find";
import { forgetCarried, FROM_DISK } from "@/offline/carried";
import { useBenchAlong } from "@/offline/useBenchAlong";
import { listenForScans, typesSomewhere } from "@/features/find/scan";
import { KeysHelp } from "@/help/KeysHelp";
import { Failed } from "@/ui/Failed";
import { Menu, MenuItem } from "@/ui/Menu";
import { Waiting } from "@/ui/Waiting";
import { setShopZone } from "@/ui/when";
import { onSessionOver, sendAs, sendForNobody } from "@/write/outbox";
import { OutboxLine } from "@/write/OutboxLine";
import { useLive } from "@/live/useLive";
import { useWrite } from "@/write/useWrite";
import { chooseLanguage, type Language, otherLanguages } from "@/app/language";

type Session = Schemas["Session"];

/** The frame round every screen: who is signed in, the way back to the rail, what still waits to be sent. */
export function Shell() {
  const queries = useQueryClient();
  const session = useQuery(ask.session());
  // Whose screen this is; a session that ends or changes does not change that by itself.
  const [person, setPerson] = useState<Session>();
  const over = session.isError && isSessionOver(session.error);
  const location = useLocation();
  // A session that was only carried here counts where the server cannot be asked, and says so.
  const carried = session.data !== undefined && session.dataUpdatedAt === FROM_DISK;
  const away = session.error instanceof Unreachable;
  const known = carried && !away ? undefined : session.data;
  if (known && (!person || (person.id === known.id && person !== known))) setPerson(known);

  const enter = (signedIn: Session) => {
    // What was carried for somebody else is not this person's to see.
    if (
      queries.getQueryData<Session>(keys.session())?.id !== signedIn.id ||
      (person && person.id !== signedIn.id)
    )
      queries.clear();
    speaksFor(signedIn.id);
    // A look at the session that is still on its way is older than this.
    void queries.cancelQueries({ queryKey: keys.session() });
    queries.setQueryData(keys.session(), signedIn);
    setPerson(signedIn);
    sendAs({ id: signedIn.id, name: signedIn.name });
    void queries.invalidateQueries();
  };
  const other = known && person && known.id !== person.id ? known : undefined;
  const speaker = person && !other && !over ? person.id : "";
  const name = person?.name ?? "";
  useEffect(() => {
    if (!speaker) return sendForNobody();
    sendAs({ id: speaker, name });
  }, [speaker, name]);
  useEffect(
    () => onSessionOver(() => void queries.invalidateQueries({ queryKey: keys.session() })),
    [queries],
  );

  useLive(person && !other && !over ? person : undefined);
  useBenchAlong(speaker);

  const [finding, setFinding] = useState(false);
  const [keysAsked, setKeysAsked] = useState(false);
  const navigate = useNavigate();
  const signedIn = Boolean(person);
  useEffect(() => {
    if (!signedIn) return;
    const stop = listenForScans((job) => {
      setFinding(false);
      void navigate(`/jobs/${job}`);
    });
    const listen = (event: KeyboardEvent) => {
      const slash = event.key === "/" && !typesSomewhere(event.target);
      // A figure takes no question mark: there too it asks for the keys.
      const figure = event.target instanceof HTMLInputElement && event.target.inputMode === "none";
      const asks = event.key === "?" && (figure || !typesSomewhere(event.target));
      if (asks && !event.repeat && !event.defaultPrevented && !document.querySelector("[role=dialog]")) {
        event.preventDefault();
        setKeysAsked(true);
        return;
      }
      const k = event.key.toLowerCase() === "k" && (event.ctrlKey || event.metaKey) && !event.altKey;
      if ((!slash && !k) || event.repeat || event.defaultPrevented) return;
      event.preventDefault();
      setFinding(true);
    };
    window.addEventListener("keydown", listen);
    return () => {
      stop();
      window.removeEventListener("keydown", listen);
    };
  }, [navigate, signedIn]);

  if (!person) {
    if (over) return <SignIn onSignedIn={enter} />;
    if (session.error) return <Failed error={session.error} onAgain={() => void session.refetch()} />;
    return <Waiting what={say`the shop`} onAgain={() => void session.refetch()} />;
  }
  speaksFor(person.id);
  setShopZone(person.time_zone);
  const openFind = () => setFinding(true);
  return (
    <div className="flex min-h-dvh flex-col" key={person.id}>
      <TopBar person={person} onFind={openFind} onKeys={() => setKeysAsked(true)} onChanged={enter} />
      <ErrorBoundary key={location.pathname}>
        <Outlet context={{ openFind } satisfies ShellPlace} />
      </ErrorBoundary>
      {keysAsked && <KeysHelp onClose={() => setKeysAsked(false)} />}
      <Find open={finding} onOpenChange={setFinding} />
      {(over || other) && <SessionPlace person={person} other={other} onSignedIn={enter} />}
    </div>
  );
}

/** What the frame offers to the screens in it. */
export interface ShellPlace {
  openFind: () => void;
}

const PLACE =
  "inline-flex min-h-12 min-w-11 items-center justify-center px-1.5 underline-offset-4 hover:underline";

interface TopBarProps {
  person: Session;
  onFind: () => void;
  onKeys: () => void;
  onChanged: (session: Session) => void;
}

function TopBar({ person, onFind, onKeys, onChanged }: TopBarProps) {
  const { name, shop, force_unit: unit = "N" } = person;
  const navigate = useNavigate();
  const { away } = useContact();
  const [theme, setTheme] = useState(storedTheme);
  const [asking, setAsking] = useState<"" | "person" | "digits">("");
  const signOut = useWrite({
    send: () => answer(client.DELETE("/api/v1/session")),
    // A fresh page: nothing of this person stays in memory for the next one at this tablet.
    onSaved: () => void forgetCarried().then(() => window.location.assign("/")),
  });
  const setUnit = useWrite({
    touches: touches.session(),
    fills: () => keys.session(),
    send: (force_unit: "N" | "kgf") => answer(client.PATCH("/api/v1/session", { body: { force_unit } })),
  });
  return (
    <header className="flex h-12 shrink-0 items-center gap-3 whitespace-nowrap bg-sea px-4 text-sea-ink max-md:gap-2 max-md:px-2 print:hidden">
      <Link to="/" className="flex min-h-12 min-w-12 items-center gap-2 text-lg font-bold">
        <Trans>
          <svg viewBox="0 0 32 32" className="size-7" aria-hidden="true">
            <circle cx="16" cy="16" r="13" fill="none" stroke="currentColor" strokeWidth="4" />
            <path d="M16 3v10M27 22.500l-9-4M5 22.500l9-4" stroke="currentColor" strokeWidth="2" />
            <circle cx="16" cy="16" r="3.500" className="fill-signal" />
          </svg>
          Felloe
        </Trans>
      </Link>
      <nav aria-label={say`Main`} className="flex gap-1">
        <Link to="/" className={`${PLACE} max-sm:sr-only max-sm:min-h-0 max-sm:min-w-0`}>
          <Trans>The rail</Trans>
        </Link>
        {person.rights.includes("job_open") && (
          <Link to="/take-in" className={PLACE}>
            <Trans>Take in</Trans>
          </Link>
        )}
        <Link to="/stock" className={`${PLACE} max-md:hidden`}>
          <Trans>Stock</Trans>
        </Link>
        <Link to="/instruments" className={`${PLACE} max-md:hidden`}>
          <Trans>Instruments</Trans>
        </Link>
        <Link to="/road-advice" className={`${PLACE} max-md:hidden`}>
          <Trans>On the road</Trans>
        </Link>
      </nav>
      <button
        type="button"
        onClick={onFind}
        aria-keyshortcuts="/ Control+K"
        className="min-h-11 min-w-11 rounded-sm border border-current px-3 text-sm max-sm:px-2"
      >
        <Trans>Find</Trans> <kbd className="font-figure max-md:hidden">/</kbd>
      </button>
      <span className="ml-auto hidden text-sm opacity-90 xl:inline">{shop}</span>
      {(away || signOut.error || setUnit.error) && (
        <span role="status" className="rounded-sm bg-plate px-2 py-1 text-sm font-bold text-ink">
          <span className="max-lg:sr-only">
            <Trans>Server not reached: what is shown may be old</Trans>
          </span>
          <span aria-hidden="true" className="lg:hidden">
            <Trans>offline</Trans>
          </span>
        </span>
      )}
      <OutboxLine personId={person.id} />
      <Menu
        label={say`${name}: settings`}
        trigger={
          <span title={name} className="inline-block max-w-40 truncate align-bottom max-md:max-w-16">
            {name}
          </span>
        }
      >
        <MenuItem className="md:hidden" onSelect={() => void navigate("/stock")}>
          <Trans>Stock</Trans>
        </MenuItem>
        <MenuItem className="md:hidden" onSelect={() => void navigate("/instruments")}>
          <Trans>Instruments</Trans>
        </MenuItem>
        <MenuItem className="md:hidden" onSelect={() => void navigate("/road-advice")}>
          <Trans>On the road</Trans>
        </MenuItem>
        <MenuItem onSelect={() => setUnit.go(unit === "N" ? "kgf" : "N")}>
          <Trans>Show forces in {unit === "N" ? "kgf" : "N"}</Trans>
        </MenuItem>
        {THEMES.filter((other) => other !== theme).map((next) => (
          <MenuItem
            key={next}
            onSelect={() => {
              chooseTheme(next);
              setTheme(next);
            }}
          >
            {
              { light: say`Light bench`, dark: say`Dark bench`, device: say`Light or dark as the device` }[
                next
              ]
            }
          </MenuItem>
        ))}
        {otherLanguages().map((language) => (
          <MenuItem key={language.code} onSelect={() => chooseLanguage(language.code)}>
            <ByItsName language={language} />
          </MenuItem>
        ))}
        <MenuItem onSelect={onKeys}>
          <Trans>Keys of this screen</Trans>
        </MenuItem>
        <MenuItem onSelect={() => void navigate("/words")}>
          <Trans>Words of the job</Trans>
        </MenuItem>
        {person.rights.includes("practice") && (
          <MenuItem onSelect={() => void navigate("/practice")}>
            <Trans>Practice</Trans>
          </MenuItem>
        )}
        <MenuItem onSelect={() => void navigate("/prices")}>
          <Trans>Prices</Trans>
        </MenuItem>
        <MenuItem onSelect={() => void navigate("/customers")}>
          <Trans>Customers</Trans>
        </MenuItem>
        {person.rights.includes("numbers") && (
          <MenuItem onSelect={() => void navigate("/numbers")}>
            <Trans>How the shop did</Trans>
          </MenuItem>
        )}
        <MenuItem onSelect={() => void navigate("/lots")}>
          <Trans>Lots</Trans>
        </MenuItem>
        <MenuItem onSelect={() => void navigate("/letters")}>
          <Trans>Letters</Trans>
        </MenuItem>
        <MenuItem onSelect={() => void navigate("/shop")}>
          <Trans>Shop and staff</Trans>
        </MenuItem>
        <MenuItem onSelect={() => void navigate("/account")}>
          <Trans>Your sign-in</Trans>
        </MenuItem>
        <MenuItem onSelect={() => setAsking("digits")}>
          <Trans>Your digits</Trans>
        </MenuItem>
        <MenuItem onSelect={() => setAsking("person")}>
          <Trans>Change person</Trans>
        </MenuItem>
        <MenuItem onSelect={() => signOut.go()}>
          <Trans>Sign out</Trans>
        </MenuItem>
      </Menu>
      {asking === "person" && (
        <ChangePerson me={person.id} onChanged={onChanged} onClose={() => setAsking("")} />
      )}
      {asking === "digits" && <OwnDigits onClose={() => setAsking("")} />}
    </header>
  );
}

/** Drawn, and asked for, once the menu is open. */
function ByItsName({ language }: { language: Language }) {
  return <span lang={language.code}>{language.name}</span>;
}
