/** Writes of counts that go out at once; those of the bench go through the queue. */
import { api, ask, ifMatch } from "@/client/api";
import type { paths } from "@/client/schema";

type Amendment = paths["/api/v1/counts/{count_id}"]["put"]["requestBody"]["content"]["application/json"];

export const amendCount = (id: string, version: number, body: Amendment) =>
  ask(api.PUT("/api/v1/counts/{count_id}", { params: { path: { count_id: id }, header: ifMatch(version) }, body }));

export const undoCount = (id: string) =>
  ask(api.DELETE("/api/v1/counts/{count_id}", { params: { path: { count_id: id } } }));

type BoardPicture = { colony: string; id: string; width_mm: number; columns: number; rows: number };

/** Sends the picture of a board as it is; the answer says where mites may be. */
export const addBoardPicture = ({ colony, id, ...query }: BoardPicture, file: File) =>
  ask(
    api.PUT("/api/v1/colonies/{colony_id}/board-pictures/{picture_id}", {
      params: { path: { colony_id: colony, picture_id: id }, query },
      body: file as unknown as string,
      bodySerializer: (body) => body,
      headers: { "content-type": file.type },
    }),
  );
