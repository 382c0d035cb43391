/** Writes of colonies: what they are, who leads them, what they live in, what holds them. */
import { api, ask, ifMatch } from "@/client/api";
import type { Schemas } from "@/client/types";

const at = (colony: string) => ({ path: { colony_id: colony } });
const version = (colony: string, seen: number) => ({ ...at(colony), header: ifMatch(seen) });

export const addColony = (body: Schemas["ColonyInput"]) => ask(api.POST("/api/v1/colonies", { body }));

export const amendColony = (colony: string, seen: number, body: Schemas["ColonyAmendment"]) =>
  ask(api.PUT("/api/v1/colonies/{colony_id}", { params: version(colony, seen), body }));

export const mergeColony = (colony: string, seen: number, body: Schemas["MergeInput"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/merge", { params: version(colony, seen), body }));

export const moveColony = (colony: string, seen: number, body: Schemas["MoveInput"]) =>
  ask(api.PUT("/api/v1/colonies/{colony_id}/place", { params: version(colony, seen), body }));

export const addBroodEvent = (colony: string, body: Schemas["BroodEventInput"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/brood-events", { params: at(colony), body }));

export const withdrawBroodEvent = (event: string, why: string) =>
  ask(api.POST("/api/v1/brood-events/{event_id}/withdraw", { params: { path: { event_id: event } }, body: { why } }));

export const amendHive = (colony: string, seen: number, body: Schemas["HiveInput"]) =>
  ask(api.PUT("/api/v1/colonies/{colony_id}/hive", { params: version(colony, seen), body }));

export const addQueen = (colony: string, body: Schemas["QueenInput"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/queens", { params: at(colony), body }));

export const amendQueen = (colony: string, seen: number, body: Schemas["QueenAmendment"]) =>
  ask(api.PUT("/api/v1/colonies/{colony_id}/queen", { params: version(colony, seen), body }));

export const holdColony = (colony: string, body: Schemas["HoldInput"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/hold", { params: at(colony), body }));

export const liftHold = (colony: string, body: Schemas["LiftInput"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/hold/lift", { params: at(colony), body }));

export const undoChange = (colony: string, change: string) =>
  ask(api.DELETE("/api/v1/colonies/{colony_id}/changes/{change}", { params: { path: { colony_id: colony, change } } }));

export const moveFrame = (body: Schemas["MoveFrameInput"]) => ask(api.POST("/api/v1/frame-moves", { body }));
