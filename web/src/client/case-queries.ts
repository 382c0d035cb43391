/** What screens ask the server of suspect cases. */
import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "./api";

export const caseWordsQuery = queryOptions({
  queryKey: ["case-words"],
  staleTime: Infinity,
  queryFn: () => ask(api.GET("/api/v1/case-words")),
});

export const casesQuery = (wanted: { closed?: boolean; apiary?: string }) =>
  queryOptions({
    queryKey: ["cases", "list", wanted],
    queryFn: () => ask(api.GET("/api/v1/cases", { params: { query: wanted } })),
  });

export const caseQuery = (id: string) =>
  queryOptions({
    queryKey: ["cases", id],
    queryFn: () => ask(api.GET("/api/v1/cases/{case_id}", { params: { path: { case_id: id } } })),
  });

export const aroundQuery = (id: string) =>
  queryOptions({
    queryKey: ["cases", id, "around"],
    queryFn: () => ask(api.GET("/api/v1/cases/{case_id}/around", { params: { path: { case_id: id } } })),
  });

export const tracesQuery = (id: string) =>
  queryOptions({
    queryKey: ["cases", id, "traces"],
    queryFn: () => ask(api.GET("/api/v1/cases/{case_id}/traces", { params: { path: { case_id: id } } })),
  });

export const keptTracesQuery = (id: string, number: number) =>
  queryOptions({
    queryKey: ["cases", id, "traces", number],
    staleTime: Infinity,
    queryFn: () =>
      ask(api.GET("/api/v1/cases/{case_id}/traces/{number}", { params: { path: { case_id: id, number } } })),
  });

export const sourcesQuery = queryOptions({
  queryKey: ["cases", "sources"],
  queryFn: () => ask(api.GET("/api/v1/case-sources")),
});
