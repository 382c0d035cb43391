/** Writes of dead colonies: examined, closed, cleared, their combs and boxes sent on. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

export type DeadOutView = Schemas["DeadOutView"];
export type DeadStep = Schemas["DeadSign"]["step"];
export type StepPiece = { deadout: string; step: DeadStep; content: Schemas["DeadStepRecord"]; reason: string };

export const openDeadOut = (body: Schemas["DeadOutInput"]) => ask(api.POST("/api/v1/deadouts", { body }));

/** The version that an examination has of a step. */
export const stepVersion = (view: DeadOutView, step: DeadStep): number =>
  view.steps.find((one) => one.step === step)?.version ?? 0;

export const saveDeadStep = ({ deadout, step, content, reason }: StepPiece, version: number): Promise<DeadOutView> =>
  ask(
    api.PUT("/api/v1/deadouts/{deadout_id}/steps/{step}", {
      params: { path: { deadout_id: deadout, step } },
      body: { version, content, reason },
    }),
  );

export const closeDeadOut = (id: string) =>
  ask(api.POST("/api/v1/deadouts/{deadout_id}/close", { params: { path: { deadout_id: id } } }));

export const dropDeadOut = (id: string) =>
  ask(api.POST("/api/v1/deadouts/{deadout_id}/drop", { params: { path: { deadout_id: id } } }));

export const addDeadOutPhoto = (id: string, photo: string, step: DeadStep, file: File) =>
  ask(
    api.PUT("/api/v1/deadouts/{deadout_id}/photos/{photo_id}", {
      params: { path: { deadout_id: id, photo_id: photo }, query: { step } },
      body: file as unknown as string,
      bodySerializer: (body) => body,
      headers: { "content-type": file.type },
    }),
  );

export const decideFates = (colony: string, body: Schemas["FatesInput"]) =>
  ask(api.PUT("/api/v1/colonies/{colony_id}/fates", { params: { path: { colony_id: colony } }, body }));

export const carryOutFates = (colony: string, body: Schemas["CarriedOut"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/fates/carried-out", { params: { path: { colony_id: colony } }, body }));

export const excludeFoulbrood = (colony: string, body: Schemas["ExclusionInput"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/exclusion", { params: { path: { colony_id: colony } }, body }));

export const withdrawExclusion = (colony: string, body: Schemas["WithdrawalInput"]) =>
  ask(api.POST("/api/v1/colonies/{colony_id}/exclusion/withdraw", { params: { path: { colony_id: colony } }, body }));
