/** The shapes of the API, and what goes wrong with it. */
import type { components, operations } from "./schema";

export type Schemas = components["schemas"];
export type Role = Schemas["Member"]["role"];
export type MarkColour = NonNullable<Schemas["Queen"]["mark_seen"]>;
export type Level = Schemas["ColonyOverview"]["level"];
/** The orders of the list of all colonies. */
export type ListOrder = NonNullable<NonNullable<operations["list_forecasts"]["parameters"]["query"]>["sort"]>;
/** The orders of the list of apiaries. */
export type ApiaryOrder = NonNullable<NonNullable<operations["list_apiaries"]["parameters"]["query"]>["sort"]>;
/** Which lines of the register are wanted. */
export type RegisterWanted = NonNullable<operations["read_register"]["parameters"]["query"]>;
/** Of which courses it is asked what works. */
export type WhatWorksWanted = NonNullable<operations["read_what_works"]["parameters"]["query"]>;
export type FieldFault = { field: string; code: string; message: string };

/** What went wrong, as the server's problem document says it; `status` 0 means that no answer came. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly faults: FieldFault[],
    readonly rule: string | null,
    readonly canOverride: boolean,
  ) {
    super(detail || title);
  }

  /** The message for one field, if the server named it. */
  at(field: string): string | undefined {
    return this.faults.find((fault) => fault.field === field || fault.field.startsWith(`${field}[`))?.message;
  }
}

/** The drawn map that ships with the demo: coasts, woods, water, roads, place names. */
export type MapData = GeoJSON.FeatureCollection<GeoJSON.Geometry, { kind: string; name?: string }>;
