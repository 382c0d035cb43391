/** Writes of visits. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

const path = (visit: string) => ({ params: { path: { visit_id: visit } } });

export const closeVisit = (visit: string): Promise<Schemas["VisitView"]> =>
  ask(api.POST("/api/v1/visits/{visit_id}/close", path(visit)));

export const reopenVisit = (visit: string) => ask(api.DELETE("/api/v1/visits/{visit_id}/close", path(visit)));

export const dropVisit = (visit: string) => ask(api.POST("/api/v1/visits/{visit_id}/drop", path(visit)));

export const openVisit = (colony: string, body: Schemas["OpenInput"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/visits", { params: { path: { colony_id: colony } }, body }));

type Photo = { visit: string; id: string; box_id?: string; slot?: number; sign?: string | undefined };

/** Sends a photo of a visit, or of one of its frames, as it is. */
export const addPhoto = ({ visit, id, ...query }: Photo, file: File) =>
  ask(
    api.PUT("/api/v1/visits/{visit_id}/photos/{photo_id}", {
      params: { path: { visit_id: visit, photo_id: id }, query },
      body: file as unknown as string,
      bodySerializer: (body) => body,
      headers: { "content-type": file.type },
    }),
  );

/** What was seen of a colony without opening a visit: one thing, or the colony as a whole. */
export const recordLook = (colony: string, body: Schemas["PastVisitInput"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/past-visits", { params: { path: { colony_id: colony } }, body }));
