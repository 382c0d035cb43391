/** The heads of the columns that order the list of all colonies; what each puts first is the server's to say. */
import type { ListOrder } from "@/client/types";

export const LIST_ORDER_NAME: Record<ListOrder, string> = {
  forecast: "over by",
  name: "colony",
  level: "level",
  counted: "counted",
};

export const LIST_ORDERS = Object.keys(LIST_ORDER_NAME) as ListOrder[];
