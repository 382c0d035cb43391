/** Writes of the honey taken. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

export const recordHarvest = (body: Schemas["HarvestInput"]) => ask(api.POST("/api/v1/harvests", { body }));

export const withdrawHarvest = (harvest: string, why: string) =>
  ask(api.POST("/api/v1/harvests/{harvest_id}/withdraw", { params: { path: { harvest_id: harvest } }, body: { why } }));
