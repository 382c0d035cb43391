/** What screens ask the server of pests, traps and entrances. */
import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "./api";

export const pestsQuery = queryOptions({
  queryKey: ["signs", "pests"],
  queryFn: () => ask(api.GET("/api/v1/pests")),
  staleTime: Infinity,
});

export const pestsAheadQuery = queryOptions({
  queryKey: ["pests-ahead"],
  queryFn: () => ask(api.GET("/api/v1/pests/ahead")),
});

export const colonyPestsQuery = (colony: string) =>
  queryOptions({
    queryKey: ["colony", colony, "pests"],
    queryFn: () => ask(api.GET("/api/v1/colonies/{colony_id}/pests", { params: { path: { colony_id: colony } } })),
  });

export const storedCombsQuery = (apiary: string) =>
  queryOptions({
    queryKey: ["apiary", apiary, "stored-combs"],
    queryFn: () =>
      ask(api.GET("/api/v1/apiaries/{apiary_id}/stored-combs", { params: { path: { apiary_id: apiary } } })),
  });
