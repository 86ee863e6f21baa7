import type { QueryClient } from "@tanstack/react-query";
import type { Key } from "./keys";

/**
 * Put what a deed's answer says where the answer to a question stands. A question that set out before the deed may come back
 * without it and take it off the screen again, so one that is still under way is asked anew.
 */
export function fill<T>(
  queries: QueryClient,
  queryKey: Key,
  put: T | ((old: T | undefined) => T | undefined),
): void {
  const which = { queryKey, exact: true };
  const underWay = queries.isFetching(which) > 0;
  queries.setQueryData<T>(queryKey, put);
  if (!underWay) return;
  void queries.cancelQueries(which).then(() => queries.invalidateQueries(which));
}
