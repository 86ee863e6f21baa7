import { Trans } from "@lingui/react/macro";

/** Nobody mistakes a practice wheel for a customer's: the band stands above everything that is done to one. */
export function Banner() {
  return (
    <p
      className="border-y border-line-strong bg-tag px-4 py-0.5 text-sm font-bold text-tag-ink print:hidden"
      role="note"
    >
      <Trans>Practice: this wheel is nobody’s. Nothing of it goes into the shop’s records.</Trans>
    </p>
  );
}
