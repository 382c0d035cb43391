/** A course as a strip draws it: the days that it took, and its placings. */
import type { Schemas } from "@/client/types";
import type { DrawnCourse } from "@/instruments/season-strip";

export function drawnCourse(course: Schemas["CourseView"]): DrawnCourse {
  const ending = course.steps.find((step) => step.kind === "remove" || step.kind === "end");
  const placed = course.steps.filter((step) => step.kind === "place" && step.act?.outcome === "done");
  return {
    id: course.id,
    short_name: course.option.short_name,
    state: course.state,
    occupies_from: course.placed_on ?? course.start_on,
    occupies_to: course.ended_on ?? ending?.ideal ?? course.start_on,
    honey_clear_on: course.honey_clear_on,
    placings:
      course.steps.length === 0 ? (course.earlier?.doses_on ?? []) : placed.map((step) => step.act?.done_on ?? ""),
  };
}
