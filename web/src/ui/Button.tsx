import type { ButtonHTMLAttributes } from "react";
import { Link, type LinkProps } from "react-router";
import { classes } from "./classes";

type Weight = "now" | "plain" | "quiet" | "danger";

const LOOK: Record<Weight, string> = {
  now: "bg-signal text-signal-ink border-transparent font-bold",
  plain: "bg-plate text-ink border-line-strong",
  quiet: "bg-transparent text-ink border-transparent underline underline-offset-4",
  danger: "bg-danger-soft text-danger border-danger font-bold",
};

const BASE =
  "inline-flex min-h-12 min-w-12 items-center justify-center gap-2 rounded-sm border px-4 text-base disabled:opacity-50 disabled:cursor-not-allowed";

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  weight?: Weight;
}

/** A button of at least 48 px. "now" is the one thing to do next on a screen. */
export function Button({ weight = "plain", className, type = "button", onKeyDown, ...rest }: ButtonProps) {
  return (
    <button
      type={type}
      className={classes(BASE, LOOK[weight], className)}
      onKeyDown={(event) => {
        // A key held down is one press.
        if (event.repeat && (event.key === "Enter" || event.key === " ")) event.preventDefault();
        onKeyDown?.(event);
      }}
      {...rest}
    />
  );
}

interface ButtonLinkProps extends LinkProps {
  weight?: Weight;
}

export function ButtonLink({ weight = "plain", className, ...rest }: ButtonLinkProps) {
  return <Link className={classes(BASE, LOOK[weight], className)} {...rest} />;
}
