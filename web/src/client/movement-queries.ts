/** What screens ask the server of where colonies, combs and queens have been. */
import { queryOptions } from "@tanstack/react-query";
import { api, ask } from "./api";

export const colonyWhereQuery = (id: string) =>
  queryOptions({
    queryKey: ["where", "colony", id],
    queryFn: () => ask(api.GET("/api/v1/colonies/{colony_id}/where", { params: { path: { colony_id: id } } })),
  });

export const combWhereQuery = (id: string) =>
  queryOptions({
    queryKey: ["where", "comb", id],
    queryFn: () => ask(api.GET("/api/v1/frames/{frame_id}/where", { params: { path: { frame_id: id } } })),
  });

export const queenWhereQuery = (id: string) =>
  queryOptions({
    queryKey: ["where", "queen", id],
    queryFn: () => ask(api.GET("/api/v1/queens/{queen_id}/where", { params: { path: { queen_id: id } } })),
  });
