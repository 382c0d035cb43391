/** The orders of the list of apiaries: by the core's order of work, or by what a column shows. */
import type { Level, Schemas } from "@/client/types";

type Apiary = Schemas["ApiaryRow"];
export const APIARY_ORDERS = ["by", "name", "level", "highest", "counted"] as const;
export type ApiaryOrder = (typeof APIARY_ORDERS)[number];

/** Levels as they ask for attention. */
export const LEVELS: Level[] = ["urgent", "act", "unknown", "watch", "clear"];

const attention = (one: Apiary) => (one.worst ? LEVELS.indexOf(one.worst) : LEVELS.length);

/** The apiaries in an order; `work` are those with work, the one whose work must begin first on top. */
export function inOrder(apiaries: Apiary[], order: ApiaryOrder, work: Schemas["ApiaryDue"][]): Apiary[] {
  const place = new Map(work.map((one, index) => [one.apiary_id, index]));
  const by: Record<ApiaryOrder, (a: Apiary, b: Apiary) => number> = {
    by: (a, b) => (place.get(a.id) ?? work.length) - (place.get(b.id) ?? work.length),
    name: () => 0,
    level: (a, b) => attention(a) - attention(b),
    highest: (a, b) => (b.highest ?? -1) - (a.highest ?? -1),
    counted: (a, b) => (a.oldest_count_on ?? "").localeCompare(b.oldest_count_on ?? ""),
  };
  return [...apiaries].sort((a, b) => by[order](a, b) || a.name.localeCompare(b.name));
}

type Colony = Schemas["ColonyOverview"];
export const COLONY_ORDERS = ["danger", "name"] as const;
export type ColonyOrder = (typeof COLONY_ORDERS)[number];

/** The colonies of an apiary: the most pressing level on top and the highest figure in it, or by their names. */
export function coloniesInOrder(colonies: Colony[], order: ColonyOrder): Colony[] {
  if (order === "name") return colonies;
  const pressing = (one: Colony) => LEVELS.indexOf(one.level);
  return [...colonies].sort((a, b) => pressing(a) - pressing(b) || (b.median ?? -1) - (a.median ?? -1));
}
