/** What screens ask the server of dead colonies. */
import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "./api";
import type { Schemas } from "./types";

export const deadSignsQuery = queryOptions({
  queryKey: ["signs", "dead"],
  queryFn: () => ask(api.GET("/api/v1/dead-signs")),
  staleTime: Infinity,
});

export const deadOutsQuery = (apiary?: string) =>
  queryOptions({
    queryKey: ["deadouts", apiary ?? ""],
    queryFn: () => ask(api.GET("/api/v1/deadouts", { params: { query: apiary ? { apiary_id: apiary } : {} } })),
  });

export const deadOutQuery = (id: string) =>
  queryOptions({
    queryKey: ["deadout", id],
    queryFn: () => ask(api.GET("/api/v1/deadouts/{deadout_id}", { params: { path: { deadout_id: id } } })),
  });

/** What it fits without some findings; with none left out it is what the page knows already. */
export const deadReadingQuery = (id: string, without: string[], whole: Schemas["DeadReading"]) =>
  queryOptions({
    queryKey: ["deadout", id, "reading", without],
    queryFn: () =>
      without.length === 0
        ? whole
        : ask(
            api.GET("/api/v1/deadouts/{deadout_id}/reading", {
              params: { path: { deadout_id: id }, query: { without } },
            }),
          ),
  });

export const fatesQuery = (colony: string) =>
  queryOptions({
    queryKey: ["colony", colony, "fates"],
    queryFn: () => ask(api.GET("/api/v1/colonies/{colony_id}/fates", { params: { path: { colony_id: colony } } })),
  });

export const wintersQuery = queryOptions({ queryKey: ["winters"], queryFn: () => ask(api.GET("/api/v1/winters")) });
