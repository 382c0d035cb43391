/** Writes of courses. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

export const recordAct = (course: string, body: Schemas["ActInput"]) =>
  ask(api.POST("/api/v1/courses/{course_id}/acts", { params: { path: { course_id: course } }, body }));

export const abandonCourse = (course: string, why: string, removedOn: string | null) =>
  ask(
    api.POST("/api/v1/courses/{course_id}/abandon", {
      params: { path: { course_id: course } },
      body: { why, removed_on: removedOn },
    }),
  );
