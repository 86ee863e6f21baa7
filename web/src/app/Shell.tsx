import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, Outlet, useNavigate } from "react-router";
import { answer, client } from "@/api/client";
import { Problem } from "@/api/problem";
import { ask } from "@/api/queries";
import { chooseTheme, storedTheme } from "@/app/theme";
import { SignIn } from "@/features/accounts/SignIn";
import { OutboxLine } from "@/features/bench/OutboxLine";
import { Button } from "@/ui/Button";
import { Menu, MenuItem } from "@/ui/Menu";
import { Waiting } from "@/ui/Waiting";

/** The frame round every screen: who is signed in, the way back to the rail, what still waits to be sent. */
export function Shell() {
  const session = useQuery(ask.session());
  if (session.isPending) return <Waiting what="the shop" />;
  if (session.error instanceof Problem) return <SignIn />;
  if (session.error) {
    return (
      <main className="grid min-h-dvh place-items-center p-8">
        <div className="max-w-md">
          <h1>The server cannot be reached</h1>
          <p className="mt-2 mb-4">Nothing is lost. Check that Felloe runs, then try again.</p>
          <Button onClick={() => void session.refetch()}>Try again</Button>
        </div>
      </main>
    );
  }
  return (
    <div className="flex min-h-dvh flex-col">
      <TopBar name={session.data.name} shop={session.data.shop} unit={session.data.force_unit ?? "N"} />
      <Outlet />
    </div>
  );
}

function TopBar({ name, shop, unit }: { name: string; shop: string; unit: string }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [theme, setTheme] = useState(storedTheme);
  const signOut = async () => {
    await client.DELETE("/api/v1/session");
    // A fresh page: nothing of this person stays in memory for the next one at this tablet.
    window.location.assign("/");
  };
  const setUnit = async (force_unit: "N" | "kgf") => {
    await answer(client.PATCH("/api/v1/session", { body: { force_unit } }));
    await queries.invalidateQueries({ queryKey: ["session"] });
  };
  return (
    <header className="flex h-12 shrink-0 items-center gap-5 whitespace-nowrap max-md:gap-3 bg-sea px-4 text-sea-ink print:hidden">
      <Link to="/" className="flex items-center gap-2 text-lg font-bold">
        <svg viewBox="0 0 32 32" className="size-7" aria-hidden="true">
          <circle cx="16" cy="16" r="13" fill="none" stroke="currentColor" strokeWidth="4" />
          <path d="M16 3v10M27 22.500l-9-4M5 22.500l9-4" stroke="currentColor" strokeWidth="2" />
          <circle cx="16" cy="16" r="3.500" className="fill-signal" />
        </svg>
        Felloe
      </Link>
      <nav aria-label="Main" className="flex gap-4">
        <Link to="/" className="underline-offset-4 hover:underline">
          The rail
        </Link>
        <Link to="/take-in" className="underline-offset-4 hover:underline">
          Take in
        </Link>
        <Link to="/stock" className="underline-offset-4 hover:underline max-sm:hidden">
          Stock
        </Link>
        <Link to="/instruments" className="underline-offset-4 hover:underline max-sm:hidden">
          Instruments
        </Link>
        <Link to="/road-advice" className="underline-offset-4 hover:underline max-sm:hidden">
          On the road
        </Link>
      </nav>
      <span className="ml-auto hidden text-sm opacity-90 md:inline">{shop}</span>
      <OutboxLine />
      <Menu label={`${name}: settings`} trigger={name}>
        <MenuItem onSelect={() => void setUnit(unit === "N" ? "kgf" : "N")}>
          Show forces in {unit === "N" ? "kgf" : "N"}
        </MenuItem>
        <MenuItem
          onSelect={() => {
            const next = theme === "dark" ? "light" : "dark";
            chooseTheme(next);
            setTheme(next);
          }}
        >
          {theme === "dark" ? "Light" : "Dark"} bench
        </MenuItem>
        <MenuItem onSelect={() => void navigate("/prices")}>Prices</MenuItem>
        <MenuItem onSelect={() => void signOut()}>Sign out</MenuItem>
      </Menu>
    </header>
  );
}
