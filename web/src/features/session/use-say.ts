/** Sentences of the core as this person reads them: days in words, temperatures in the person's unit. */
import { useSession } from "@/features/session/use-session";
import { sayDays } from "@/ui/dates";
import { sayTemperatures } from "@/ui/units";

export function useSay(): (sentence: string) => string {
  const { person, today } = useSession();
  return (sentence) => sayTemperatures(sayDays(sentence, today), person);
}
