import { Trans } from "@lingui/react/macro";

interface EarlierProps {
  of: {
    hasNextPage: boolean;
    isFetchingNextPage: boolean;
    isFetchNextPageError: boolean;
    fetchNextPage: () => unknown;
  };
}

/** The last line of a list that goes on: asks for what came before. */
export function Earlier({ of }: EarlierProps) {
  if (!of.hasNextPage) return null;
  return (
    <li>
      {of.isFetchNextPageError && (
        <p>
          <Trans>What came before could not be fetched.</Trans>
        </p>
      )}
      <button
        type="button"
        className="tap min-h-11 underline"
        // Not `disabled`: who asks by keys keeps the place.
        aria-disabled={of.isFetchingNextPage}
        onClick={() => !of.isFetchingNextPage && of.fetchNextPage()}
      >
        <Trans>Show what came before</Trans>
      </button>
    </li>
  );
}
