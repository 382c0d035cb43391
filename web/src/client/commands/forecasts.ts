/** Asking for the forecasts of all colonies. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

export const requestForecasts = (body: Schemas["RunInput"]) => ask(api.POST("/api/v1/forecasts", { body }));
