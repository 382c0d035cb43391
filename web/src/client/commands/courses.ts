/** Writes of courses. */
import { api, ask, ifMatch } from "@/client/api";
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

export const amendAct = (course: string, act: string, version: number, body: Schemas["ActAmendment"]) =>
  ask(
    api.PUT("/api/v1/courses/{course_id}/acts/{act_id}", {
      params: { path: { course_id: course, act_id: act }, header: ifMatch(version) },
      body,
    }),
  );

export const recordEarlier = (body: Schemas["EarlierInput"]) => ask(api.POST("/api/v1/courses/earlier", { body }));

export const amendEarlier = (course: string, version: number, body: Schemas["EarlierAmendment"]) =>
  ask(
    api.PUT("/api/v1/courses/{course_id}/earlier", {
      params: { path: { course_id: course }, header: ifMatch(version) },
      body,
    }),
  );

export const withdrawEarlier = (course: string, version: number, why: string) =>
  ask(
    api.POST("/api/v1/courses/{course_id}/earlier/withdraw", {
      params: { path: { course_id: course }, header: ifMatch(version) },
      body: { why },
    }),
  );

export const recordTreatmentsKnown = (body: Schemas["TreatmentsKnownInput"]) =>
  ask(api.POST("/api/v1/treatments-known", { body }));

export const undoAct = (course: string, act: string) =>
  ask(
    api.DELETE("/api/v1/courses/{course_id}/acts/{act_id}", { params: { path: { course_id: course, act_id: act } } }),
  );

export const recordHiveAct = (course: string, body: Schemas["HiveActInput"]) =>
  ask(api.POST("/api/v1/courses/{course_id}/hive-acts", { params: { path: { course_id: course } }, body }));

export const withdrawHiveAct = (act: string, why: string) =>
  ask(api.POST("/api/v1/hive-acts/{hive_act_id}/withdraw", { params: { path: { hive_act_id: act } }, body: { why } }));
