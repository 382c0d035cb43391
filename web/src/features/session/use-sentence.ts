/** Sentences of the core as this person reads them: days in words, temperatures and weights in the person's units. */
import { useCallback } from "react";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { temperature, weight } from "@/ui/units";
import { sentence, type Code } from "@/wording/sentences";
import { useSession } from "./use-session";

type Sentence = { code: Code } & Pick<Schemas["Said"], "params">;

export function useSentence(): (said: Sentence) => string {
  const { person, today } = useSession();
  return useCallback(
    ({ code, params }: Sentence) =>
      sentence(code, params, {
        date: (day) => shortDay(day, today),
        temperature: (celsius) => temperature(celsius, person),
        weight: (kg) => weight(kg, person),
      }),
    [person, today],
  );
}

/** The reasons of a finding in one line. */
export function useReasons(): (because: Schemas["Said"][]) => string {
  const say = useSentence();
  return useCallback((because: Schemas["Said"][]) => because.map(say).join("; "), [say]);
}
