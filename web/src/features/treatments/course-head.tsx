/** The head of a course: which treatment, of which colony, planned together with which others, and why. */
import { clsx } from "clsx";
import { Link, useSearch } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { longDay, shortDay } from "@/ui/dates";
import { Details } from "@/ui/details";
import { TextLink } from "@/ui/link";
import { Title } from "@/ui/page";
import { quantity } from "@/ui/units";
import { useMay } from "@/features/session/use-session";
import { useSentence } from "@/features/session/use-sentence";
import { ByLabel } from "./by-label";
import { COURSE_STATE, colonies, courseStep } from "@/wording/words";

type Course = Schemas["CourseView"];
type Plan = Schemas["PlanView"];

type HeadProps = { course: Course; today: string; onAbandon: (() => void) | null };

export function CourseHead({ course, today, onAbandon }: HeadProps) {
  const honey = course.ended_on
    ? ` Honey clear ${shortDay(course.honey_clear_on ?? course.ended_on, today)}.`
    : " Honey: not known until the course has ended.";
  return (
    <>
      <Breadcrumbs
        path={[
          { name: course.apiary, to: "/apiaries/$id", params: { id: course.apiary_id } },
          { name: course.label, to: "/colonies/$id", params: { id: course.colony_id } },
        ]}
      />
      <div className="mt-1 flex flex-wrap items-end justify-between gap-4">
        <div>
          <Title>{course.option.name}</Title>
          <p className="mt-1 text-ink-2">
            {course.label} at {course.apiary}: <strong className="text-ink">{COURSE_STATE[course.state]}</strong>.{" "}
            {course.option.chemical &&
              (course.dose_quantity === null
                ? "Dose not known."
                : `${quantity(course.dose_quantity, course.dose_unit)} per placing.`)}
            {course.honey_clear_on && honey}
          </p>
          <ByLabel option={course.option} />
        </div>
        {onAbandon && course.is_open && (
          <Button variant="quiet" onClick={onAbandon}>
            Abandon the course
          </Button>
        )}
      </div>
    </>
  );
}

/** The colonies of the plan, each a way to its own course at the same step. */
export function PlanNav({ course, plan }: { course: Course; plan: Schemas["PlanView"] }) {
  const { step: wanted } = useSearch({ from: "/in/courses/$id" });
  const mayRecord = useMay("record");
  const elsewhere = mayRecord && !course.earlier && course.is_open && (
    <SameElsewhere course={course} start={course.start_on < plan.today ? plan.today : course.start_on} />
  );
  if (plan.courses.length < 2) return elsewhere || null;
  const apiaries = [...new Set(plan.courses.map((one) => one.apiary))];
  const placed = plan.courses.filter((one) => one.placed_on !== null).length;
  return (
    <nav aria-label="Colonies of this plan" className="mt-4">
      <p className="mb-1 text-sm text-ink-2">
        {course.earlier
          ? "Entered together."
          : `Planned together: ${String(placed)} of ${String(plan.courses.length)} placed.`}
      </p>
      <StepsTogether course={course} plan={plan} />
      {apiaries.map((apiary) => (
        <div key={apiary}>
          {apiaries.length > 1 && <p className="mt-1 text-sm font-semibold">{apiary}</p>}
          <Colonies course={course} courses={plan.courses.filter((one) => one.apiary === apiary)} step={wanted} />
        </div>
      ))}
      {elsewhere}
    </nav>
  );
}

/** The journeys that the plan still asks for: on which days one does for all that wait. */
function StepsTogether({ course, plan }: { course: Course; plan: Plan }) {
  const steps = plan.steps[course.apiary_id] ?? [];
  if (steps.length === 0) return null;
  return (
    <ul aria-label="Journeys to come" className="mb-2 text-sm">
      {steps.map((step) => (
        <li key={step.name}>
          {courseStep(step.name, course)}, {colonies(step.waiting)}:{" "}
          {step.from_day !== null && step.to_day !== null ? (
            <>
              one journey does,{" "}
              {step.from_day === step.to_day
                ? shortDay(step.from_day, plan.today)
                : `${shortDay(step.from_day, plan.today)} to ${shortDay(step.to_day, plan.today)}`}
            </>
          ) : (
            <strong>
              no day does for all: best {shortDay(step.best_from, plan.today)} to {shortDay(step.best_to, plan.today)}
            </strong>
          )}
          {step.overdue > 0 && <strong className="text-act">; {step.overdue} past the last day</strong>}
        </li>
      ))}
    </ul>
  );
}

type ColoniesProps = { course: Course; courses: Course[]; step: string | undefined };

function Colonies({ course, courses, step: wanted }: ColoniesProps) {
  return (
    <ul className="flex flex-wrap gap-px">
      {courses.map((one) => (
        <li key={one.id}>
          <Link
            to="/courses/$id"
            params={{ id: one.id }}
            search={wanted ? { step: wanted } : {}}
            aria-current={one.id === course.id ? "page" : undefined}
            className={clsx(
              "flex min-h-14 min-w-20 flex-col justify-center border border-line-2 px-3 py-1 text-center",
              "desk:min-h-12",
              one.id === course.id ? "bg-ink text-sheet" : "bg-sheet",
            )}>
            <span className="figure text-lg">{one.label}</span>
            <span className="text-xs">{COURSE_STATE[one.state]}</span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

/** One plan may take in colonies of several apiaries: the same option from the same day. */
function SameElsewhere({ course, start }: { course: Course; start: string }) {
  return (
    <TextLink
      to="/treat"
      search={{ option: course.option.id, start, plan: course.plan_id }}
      className="mt-1 inline-flex min-h-14 items-center desk:min-h-8 print:hidden">
      Plan the same at another apiary
    </TextLink>
  );
}

export function WhyChosen({ course, today }: { course: Course; today: string }) {
  const say = useSentence();
  return (
    <section>
      <Details title="Why this treatment was chosen" open={false}>
        <p>
          Decided {shortDay(course.created_at, today)} by {course.by_name || "somebody"}, policy version{" "}
          {course.policy_version}, for {longDay(course.start_on)}.
        </p>
        {course.reasons.length === 0 && <p>No rule spoke against it.</p>}
        {course.reasons.map((reason) => (
          <p key={reason.rule}>
            {reason.rule}: {say(reason)}
          </p>
        ))}
        {course.overrides.map((one) => (
          <p key={one.rule}>
            Overridden: {one.rule}, by {one.authorised_by}: {one.reason}
          </p>
        ))}
        {course.interval_override && <p>Interval set to {course.interval_override} days for this course.</p>}
      </Details>
    </section>
  );
}
