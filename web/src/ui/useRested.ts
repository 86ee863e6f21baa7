import { useEffect, useState } from "react";

/** A value once it has not changed for so long: what is asked of the server with it is asked once, not for each letter. */
export function useRested<T>(value: T, restMs = 500): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), restMs);
    return () => clearTimeout(timer);
  }, [value, restMs]);
  return rested;
}
