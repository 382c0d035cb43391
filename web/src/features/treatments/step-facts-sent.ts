/** What was found at a step, as it is typed and as it is sent. */
import type { Schemas } from "@/client/types";
import { inCelsius, inDegrees, type Units } from "@/ui/units";
import type { FactsDraft } from "./step-facts";

const number = (typed: string) => (typed.trim() === "" ? null : Number(typed));

export function factsSent(draft: FactsDraft, units: Units): Schemas["StepFactsInput"] {
  return {
    applied_by: draft.applied_by,
    temperature_c: inCelsius(draft.temperature, units),
    queen_seen: (draft.queen || null) as Schemas["StepFacts"]["queen_seen"],
    left_pct: number(draft.left),
    taken_out: number(draft.out),
    disposed: draft.disposed,
    adverse: draft.adverse,
  };
}

export function factsDraft(facts: Schemas["StepFacts"], units: Units): FactsDraft {
  return {
    applied_by: facts.applied_by,
    temperature: inDegrees(facts.temperature_c, units),
    queen: facts.queen_seen ?? "",
    left: facts.left_pct === null ? "" : String(facts.left_pct),
    out: facts.taken_out === null ? "" : String(facts.taken_out),
    disposed: facts.disposed,
    adverse: facts.adverse,
  };
}
