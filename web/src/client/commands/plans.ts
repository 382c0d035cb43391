/** Planning courses together. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

export const planCourses = (body: Schemas["PlanInput"]) => ask(api.POST("/api/v1/plans", { body }));
