import { useQuery } from "@tanstack/react-query";
import { ask } from "@/api/queries";

/** Whether the person who is signed in may carry out an operation: the server's own table, told with the session. */
export function useMay(): (operation: string) => boolean {
  const rights = useQuery(ask.session()).data?.rights ?? [];
  return (operation) => rights.includes(operation);
}
