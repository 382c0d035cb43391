/** A disease examination as its walk records it, step by step. */
import type { Schemas } from "@/client/types";
import type { After } from "./visit-queue";

export type Examination = Schemas["Examination"];
export type SetExamination = (part: Partial<Examination>) => void;

export const EMPTY: Examination = { scale_read: false, smelled: false, not_seen: [], signs: [], kits: [], lately: [] };

/** A full examination with nothing seen: what that takes, and all groups looked for. */
export function fullExamination(old: Examination, combs: number, groups: readonly { id: string }[]): Examination {
  return {
    ...old,
    brood_combs: combs,
    combs_read: combs,
    bees_off: "shaken",
    scale_read: true,
    smelled: true,
    cells_opened: Math.max(10, old.cells_opened ?? 0),
    bees_looked_at: old.bees_looked_at ?? 100,
    not_seen: groups.map((one) => one.id as Examination["not_seen"][number]),
  };
}

/** In a line what was examined, or that it was not. */
export function examined(after: After): string {
  const one = after.examination;
  if (!one) return "Not examined for disease.";
  const parts = [
    one.combs_read != null &&
      `${one.combs_read}${one.brood_combs != null ? ` of ${one.brood_combs}` : ""} brood combs read${
        one.bees_off === "shaken" ? ", bees shaken off" : one.bees_off === "on" ? ", bees on them" : ""
      }`,
    one.cells_opened != null && `${one.cells_opened} cells opened`,
    one.thread_mm != null && `match: ${one.thread_mm} mm`,
    one.signs.length > 0 && `${one.signs.length} ${one.signs.length === 1 ? "sign" : "signs"}`,
    one.kits.length > 0 && `${one.kits.length} ${one.kits.length === 1 ? "kit" : "kits"}`,
  ].filter(Boolean);
  return parts.length > 0 ? `Examined: ${parts.join("; ")}.` : "Examination begun.";
}

/** Whether a group may be said to be not seen: somebody has looked at what shows it. */
export const lookedAt = (one: Examination, at: "combs" | "bees"): boolean =>
  at === "combs" ? one.bees_off != null && (one.combs_read ?? 0) > 0 : one.bees_looked_at != null;
