/** What is said of the guide of a new association. */
import { api, ask } from "@/client/api";

export const sayFits = (step: "season" | "scoop" | "people") =>
  ask(api.PUT("/api/v1/guide/{step}", { params: { path: { step } } }));
