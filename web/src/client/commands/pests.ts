/** Writes of pests: checks, traps, entrances. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

export const recordPestCheck = (body: Schemas["PestCheckInput"]) => ask(api.POST("/api/v1/pest-checks", { body }));

export const withdrawPestCheck = (id: string, why: string) =>
  ask(
    api.POST("/api/v1/pest-checks/{pest_check_id}/withdraw", {
      params: { path: { pest_check_id: id } },
      body: { why },
    }),
  );

export const setPestTrap = (body: Schemas["TrapInput"]) => ask(api.POST("/api/v1/pest-traps", { body }));

export const emptyPestTrap = (trap: string, body: Schemas["TrapEmptied"]) =>
  ask(api.POST("/api/v1/pest-traps/{trap_id}/empty", { params: { path: { trap_id: trap } }, body }));

export const removePestTrap = (trap: string, on: string) =>
  ask(api.POST("/api/v1/pest-traps/{trap_id}/remove", { params: { path: { trap_id: trap } }, body: { on } }));

export const setEntrance = (body: Schemas["EntranceInput"]) => ask(api.POST("/api/v1/entrances", { body }));
