/** What screens ask the server of the handling of brood disease. */
import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "./api";
import type { Schemas } from "./types";

export type Condition = Schemas["HandlingInput"]["condition"];

export const handlingChoiceQuery = (visit: string, condition: Condition) =>
  queryOptions({
    queryKey: ["visit", visit, "handling", condition],
    queryFn: () =>
      ask(
        api.GET("/api/v1/visits/{visit_id}/handling/{condition}", { params: { path: { visit_id: visit, condition } } }),
      ),
  });

export const firmnessQuery = (visit: string) =>
  queryOptions({
    queryKey: ["visit", visit, "firmness"],
    queryFn: () => ask(api.GET("/api/v1/visits/{visit_id}/firmness", { params: { path: { visit_id: visit } } })),
  });

export const handlingsQuery = (colony: string) =>
  queryOptions({
    queryKey: ["colony", colony, "handlings"],
    queryFn: () => ask(api.GET("/api/v1/colonies/{colony_id}/handlings", { params: { path: { colony_id: colony } } })),
  });

export const handlingOutcomesQuery = queryOptions({
  queryKey: ["handling-outcomes"],
  queryFn: () => ask(api.GET("/api/v1/handling-outcomes")),
});
