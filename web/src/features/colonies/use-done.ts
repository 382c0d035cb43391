/** After a record was taken: everything that is shown is asked again, and the form closes. */
import { useQueryClient } from "@tanstack/react-query";

export function useDone(onDone: () => void): () => Promise<void> {
  const client = useQueryClient();
  return async () => {
    await client.invalidateQueries();
    onDone();
  };
}
