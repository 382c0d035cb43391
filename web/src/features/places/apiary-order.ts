/** The orders of the list of apiaries: by the core's order of work, or by what a column shows. */
import type { Level, Schemas } from "@/client/types";

type Apiary = Schemas["ApiaryRow"];
export const APIARY_ORDERS = ["by", "name", "level", "highest", "forecast", "counted"] as const;
export type ApiaryOrder = (typeof APIARY_ORDERS)[number];

/** Levels as they ask for attention. */
export const LEVELS: Level[] = ["urgent", "act", "unknown", "watch", "clear"];

const attention = (one: Apiary) => (one.worst ? LEVELS.indexOf(one.worst) : LEVELS.length);

/** When the next of its colonies goes over; those without a forecast come last. */
const overNext = (one: Apiary) =>
  one.forecast_over > 0 ? "0" : (one.over_next_by ?? (one.forecast_of > 0 ? "9" : "99"));

/** The heads of the columns. */
export const APIARY_ORDER_NAME: Record<ApiaryOrder, string> = {
  by: "begin by",
  name: "apiary",
  level: "level",
  highest: "highest",
  forecast: "forecast",
  counted: "counted",
};

/** The apiaries in an order; `work` are those with work, the one whose work must begin first on top. */
export function inOrder(apiaries: Apiary[], order: ApiaryOrder, work: Schemas["ApiaryDue"][]): Apiary[] {
  const place = new Map(work.map((one, index) => [one.apiary_id, index]));
  const by: Record<ApiaryOrder, (a: Apiary, b: Apiary) => number> = {
    by: (a, b) => (place.get(a.id) ?? work.length) - (place.get(b.id) ?? work.length),
    name: () => 0,
    level: (a, b) => attention(a) - attention(b),
    highest: (a, b) => (b.highest ?? -1) - (a.highest ?? -1),
    forecast: (a, b) => overNext(a).localeCompare(overNext(b)) || b.forecast_over - a.forecast_over,
    counted: (a, b) => (a.oldest_count_on ?? "").localeCompare(b.oldest_count_on ?? ""),
  };
  return [...apiaries].sort((a, b) => by[order](a, b) || a.name.localeCompare(b.name));
}

type Colony = Schemas["ColonyOverview"];
export const COLONY_ORDERS = ["danger", "highest", "forecast", "counted", "strength", "name"] as const;
export type ColonyOrder = (typeof COLONY_ORDERS)[number];

/** The orders in words. */
export const COLONY_ORDER_NAME: Record<ColonyOrder, string> = {
  danger: "danger first",
  highest: "highest first",
  forecast: "by forecast",
  counted: "longest not counted",
  strength: "weakest first",
  name: "by name",
};

/** The colonies of an apiary in an order; `outlooks` are what is forecast of them. */
export function coloniesInOrder(
  colonies: Colony[],
  order: ColonyOrder,
  outlooks: Schemas["ColonyOutlook"][] = [],
): Colony[] {
  const pressing = (one: Colony) => LEVELS.indexOf(one.level);
  const highest = (a: Colony, b: Colony) => (b.median ?? -1) - (a.median ?? -1);
  const ahead = new Map(outlooks.map((one) => [one.colony_id, one]));
  // Over by a day, perhaps over by a day, not over, no forecast.
  const over = (one: Colony) => {
    const found = ahead.get(one.id);
    if (found?.date50) return `0 ${found.date50}`;
    return found?.date10 ? `1 ${found.date10}` : found ? "2" : "3";
  };
  const by: Record<ColonyOrder, (a: Colony, b: Colony) => number> = {
    danger: (a, b) => pressing(a) - pressing(b) || highest(a, b),
    highest,
    forecast: (a, b) => over(a).localeCompare(over(b)),
    counted: (a, b) => (a.counted_on ?? "").localeCompare(b.counted_on ?? ""),
    strength: (a, b) => (a.strength ?? -1) - (b.strength ?? -1),
    name: () => 0,
  };
  return [...colonies].sort(by[order]);
}
