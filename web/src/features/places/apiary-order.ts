/** The orders of the list of apiaries, in words, and the orders of an apiary's colonies. */
import type { ApiaryOrder, Level, Schemas } from "@/client/types";

/** The heads of the columns. */
export const APIARY_ORDER_NAME: Record<ApiaryOrder, string> = {
  by: "begin by",
  name: "apiary",
  level: "level",
  highest: "highest",
  forecast: "forecast",
  counted: "counted",
};
export const APIARY_ORDERS = Object.keys(APIARY_ORDER_NAME) as ApiaryOrder[];

/** Levels as they ask for attention. */
export const LEVELS: Level[] = ["urgent", "act", "unknown", "watch", "clear"];

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
