/** Scenarios as they stand in the address: "FA_STRIP2@2031-08-06", and "arrivals@2031-08-06" for mites arriving. */
import type { Schemas } from "@/client/types";

export type Scenario = Schemas["ScenarioInput"];
export const ARRIVALS = "arrivals";
export const ARRIVALS_DAYS = 30;
const SHAPE = /^([A-Z0-9_]{2,40}|arrivals)@(\d{4}-\d{2}-\d{2})$/;

export function readScenarios(texts: string[] | undefined): Scenario[] {
  return (texts ?? []).flatMap((text) => {
    const found = SHAPE.exec(text);
    const [, what, start] = found ?? [];
    if (!what || !start) return [];
    return [
      what === ARRIVALS
        ? { kind: "arrivals" as const, option_id: null, start }
        : { kind: "course" as const, option_id: what, start },
    ];
  });
}

export function writeScenarios(scenarios: Scenario[]): string[] {
  return scenarios.map((one) => `${one.kind === "arrivals" ? ARRIVALS : one.option_id}@${one.start}`);
}
