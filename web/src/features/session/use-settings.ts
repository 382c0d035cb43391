/** The person's own settings, changed one at a time. A change shows at once; changes are saved in the order of the
 * taps, each on top of the one before, so that two quick taps are both kept. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { amendPerson } from "@/client/commands/session";
import { sessionQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import type { SignedIn } from "./use-session";

type Settings = Schemas["PersonInput"];

export function useSettings() {
  const client = useQueryClient();
  const session = () => client.getQueryData(sessionQuery.queryKey) as SignedIn;
  const amend = useMutation({
    scope: { id: "person" },
    mutationFn: () => {
      const { name, temperature, mass, volume, theme } = session().person;
      return amendPerson({ name, temperature, mass, volume, theme } as Settings);
    },
    onError: () => client.invalidateQueries(sessionQuery),
  });
  const set = (part: Partial<Settings>) => {
    client.setQueryData(sessionQuery.queryKey, { ...session(), person: { ...session().person, ...part } });
    amend.mutate();
  };
  return { set, error: amend.error };
}
