/** Writes of the stock. */
import { api, ask, ifMatch } from "@/client/api";
import type { Schemas } from "@/client/types";

export const addLot = (body: Schemas["LotInput"]) => ask(api.POST("/api/v1/lots", { body }));

export const amendLot = (lot: string, version: number, body: Schemas["LotAmendment"]) =>
  ask(api.PUT("/api/v1/lots/{lot_id}", { params: { path: { lot_id: lot }, header: ifMatch(version) }, body }));

export const changeLot = (lot: string, body: Schemas["LotChangeInput"]) =>
  ask(api.POST("/api/v1/lots/{lot_id}/changes", { params: { path: { lot_id: lot } }, body }));

export const mixSolution = (lot: string, body: Schemas["MixingInput"]) =>
  ask(api.POST("/api/v1/lots/{lot_id}/mixings", { params: { path: { lot_id: lot } }, body }));
