/** The check count of a course: the one just taken, or else the newest since the day from which it tells. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { colonyQuery } from "@/client/queries";
import { shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";

type Course = Schemas["CourseView"];
type Step = Schemas["StepView"];
type Counted = Schemas["ColonyView"]["counts"][number];

/** The count that can verify this course; undefined while it is looked for, null where there is none. */
export function useCheckCount(
  course: Course,
  step: Step | undefined,
  named: string | undefined,
): Counted | null | undefined {
  const colony = useQuery({ ...colonyQuery(course.colony_id), enabled: step?.kind === "verify" });
  if (step?.kind !== "verify") return null;
  if (!colony.data) return colony.isError ? null : undefined;
  const able = colony.data.counts.filter((one) => one.scale === "mites_per_100" && one.taken_on >= step.earliest);
  return able.find((one) => one.id === named) ?? able[0] ?? null;
}

/** What was counted, before it is set against the count before the course. */
export function CheckCount({ found, today }: { found: Counted; today: string }) {
  return (
    <p className="mt-4 border-y border-line py-3">
      <span className={clsx("figure text-3xl")}>{rate(found.median ?? 0)}</span> mites per 100 bees,{" "}
      {rate(found.low ?? 0)} to {rate(found.high ?? 0)} (95 % interval)
      <span className="block text-sm text-ink-2">
        Counted {shortDay(found.taken_on, today)}, shakes {(found.shakes ?? []).join(" + ")}. {found.by_name}
      </span>
    </p>
  );
}

/** The way to the bench: this colony's jar, or those of all that were planned together and still wait. */
export function ToTheBench({
  course,
  plan,
  step,
  again,
}: {
  course: Course;
  plan: Schemas["PlanView"];
  step: Step;
  again: boolean;
}) {
  const waiting = plan.courses.filter(
    (one) => one.state === "awaiting_verification" && one.apiary_id === course.apiary_id,
  );
  const main = "mt-3 inline-flex min-h-16 items-center bg-ink px-6 text-lg font-semibold text-sheet";
  const quiet = "mt-3 inline-flex min-h-14 items-center px-2 font-semibold underline underline-offset-4";
  const search = { apiary: course.apiary_id, course: course.id, step: step.name };
  return (
    <div className="flex flex-wrap items-center gap-x-4">
      {waiting.length > 1 && !again && (
        <Link to="/bench" search={{ ...search, colonies: waiting.map((one) => one.colony_id) }} className={main}>
          Count all {waiting.length} at the bench
        </Link>
      )}
      <Link
        to="/bench"
        search={{ ...search, colonies: [course.colony_id] }}
        className={waiting.length > 1 || again ? quiet : main}>
        {again ? `Count ${course.label} again` : `Count ${course.label} now`}
      </Link>
    </div>
  );
}
