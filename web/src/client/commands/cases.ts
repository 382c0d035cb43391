/** Writes of suspect cases: raised, moved step by step, their samples. */
import { api, ask, ifMatch } from "@/client/api";
import type { Schemas } from "@/client/types";

const at = (id: string) => ({ path: { case_id: id } });

export const raiseCase = (body: Schemas["CaseInput"]) => ask(api.POST("/api/v1/cases", { body }));

export const recordStep = (id: string, version: number, body: Schemas["StepInput"]) =>
  ask(api.POST("/api/v1/cases/{case_id}/steps", { params: { ...at(id), header: ifMatch(version) }, body }));

export const takeSample = (id: string, body: Schemas["SampleInput"]) =>
  ask(api.POST("/api/v1/cases/{case_id}/samples", { params: at(id), body }));

export const handOn = (sample: string, body: Schemas["CustodyInput"]) =>
  ask(api.POST("/api/v1/case-samples/{sample_id}/custody", { params: { path: { sample_id: sample } }, body }));

export const askLaboratory = (id: string) => ask(api.POST("/api/v1/cases/{case_id}/laboratory", { params: at(id) }));

export const recordAround = (id: string, body: Schemas["AroundVisitInput"]) =>
  ask(api.POST("/api/v1/cases/{case_id}/around", { params: at(id), body }));

/** Sends a photo that a case shows for its record, as it is. */
export const addCasePhoto = (id: string, photo: string, caption: string, file: File) =>
  ask(
    api.PUT("/api/v1/cases/{case_id}/photos/{photo_id}", {
      params: { path: { case_id: id, photo_id: photo }, query: { caption } },
      body: file as unknown as string,
      bodySerializer: (body) => body,
      headers: { "content-type": file.type },
    }),
  );
