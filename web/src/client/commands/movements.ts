/** Writes of movements: what came or went and no other act says. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

export const recordMovement = (body: Schemas["MovementInput"]) => ask(api.POST("/api/v1/movements", { body }));

export const withdrawMovement = (id: string, why: string) =>
  ask(api.POST("/api/v1/movements/{movement_id}/withdraw", { params: { path: { movement_id: id } }, body: { why } }));
