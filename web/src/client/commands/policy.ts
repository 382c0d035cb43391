/** Writing the policy, and asking what a draft of it would do. */
import { api, ask, ifMatch } from "@/client/api";
import type { Schemas } from "@/client/types";

export const previewRegion = (region: Schemas["DiseaseRegion"]) =>
  ask(api.POST("/api/v1/disease-region/preview", { body: region }));

export const previewPolicy = (draft: Schemas["PolicyInput"]) =>
  ask(api.POST("/api/v1/policy/preview", { body: draft }));

export const replacePolicy = (draft: Schemas["PolicyInput"], version: number) =>
  ask(api.PUT("/api/v1/policy", { params: { header: ifMatch(version) }, body: draft }));
