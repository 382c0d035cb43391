/** The signed-in person, for screens behind the sign-in. */
import { useSuspenseQuery } from "@tanstack/react-query";
import { sessionQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";

export type SignedIn = Schemas["SessionView"] & { person: Schemas["Person"] };

export function useSession(): SignedIn {
  const { data } = useSuspenseQuery(sessionQuery);
  if (data.person === null) throw new Error("nobody is signed in");
  return data as SignedIn;
}

export function useMay(act: string): boolean {
  return useSession().may.includes(act);
}
