/** Writes of keepers and apiaries. */
import { api, ask, ifMatch } from "@/client/api";
import type { Schemas } from "@/client/types";

export const addKeeper = (body: Schemas["KeeperInput"]) => ask(api.POST("/api/v1/keepers", { body }));

export const addApiary = (body: Schemas["ApiaryInput"]) => ask(api.POST("/api/v1/apiaries", { body }));

export const amendApiary = (id: string, version: number, body: Schemas["ApiaryFields"]) =>
  ask(api.PUT("/api/v1/apiaries/{apiary_id}", { params: { path: { apiary_id: id }, header: ifMatch(version) }, body }));

export const replaceApiaryPolicy = (id: string, version: number, body: Schemas["ApiaryPolicyInput"]) =>
  ask(
    api.PUT("/api/v1/apiaries/{apiary_id}/policy", {
      params: { path: { apiary_id: id }, header: ifMatch(version) },
      body,
    }),
  );

export const importApiaries = (table: File, take: boolean) =>
  ask(
    api.POST("/api/v1/apiaries/import", {
      params: { query: { take } },
      body: table as unknown as string,
      bodySerializer: (body) => body,
      headers: { "content-type": "text/csv" },
    }),
  );
