/** Writes of the handling of brood disease: chosen, ended. */
import { api, ask, ifMatch } from "@/client/api";
import type { Schemas } from "@/client/types";

export const chooseHandling = (body: Schemas["HandlingInput"]) => ask(api.POST("/api/v1/handlings", { body }));

export const endHandling = (id: string, version: number, body: Schemas["EndHandling"]) =>
  ask(
    api.POST("/api/v1/handlings/{handling_id}/end", {
      params: { path: { handling_id: id }, header: ifMatch(version) },
      body,
    }),
  );
