/** Writes of visits. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

const path = (visit: string) => ({ params: { path: { visit_id: visit } } });

export const closeVisit = (visit: string): Promise<Schemas["VisitView"]> =>
  ask(api.POST("/api/v1/visits/{visit_id}/close", path(visit)));

export const dropVisit = (visit: string) => ask(api.POST("/api/v1/visits/{visit_id}/drop", path(visit)));
