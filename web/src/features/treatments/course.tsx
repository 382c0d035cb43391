/** A course: what is next, done step by step for every colony of the plan; dates that move with reasons; the result. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { courseQuery, planQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { OxalicBatch } from "@/features/mixing/oxalic-batch";
import { useMay } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { relativeDay, shortDay } from "@/ui/dates";
import { Loaded } from "@/ui/loaded";
import { TextLink } from "@/ui/link";
import { Notice, Page, SectionHeading } from "@/ui/page";
import { useSay } from "@/features/session/use-say";
import { courseStep } from "@/wording/words";
import { Abandon } from "./abandon";
import { AmendAct } from "./amend-act";
import { useCheckCount } from "./check-count";
import { CourseHead, PlanNav, WhyChosen } from "./course-head";
import { CourseStrip } from "./course-strip";
import { EarlierSheet } from "./earlier-sheet";
import { Falls, TooFewFall } from "./falls";
import { HiveAgainst } from "./hive-against";
import { HiveWork, hasHiveWork } from "./hive-work";
import { RecordStep } from "./record-step";
import { StepRow } from "./step-row";
import type { Refusal } from "./record-all";
import { WhyFailed } from "./why-failed";
import { VerdictSheet } from "./verdict";

type Course = Schemas["CourseView"];
type Step = Schemas["StepView"];
type Plan = Schemas["PlanView"];
type Props = { course: Course; plan: Plan };

export function CourseScreen() {
  const { id } = useParams({ from: "/in/courses/$id" });
  const course = useQuery(courseQuery(id));
  const plan = useQuery({ ...planQuery(course.data?.plan_id ?? ""), enabled: course.data !== undefined });
  return (
    <Loaded query={course} what="Opening the course …">
      {(one) => (
        <Loaded query={plan} what="Opening the course …">
          {(together) => <CourseSheet course={one} plan={together} />}
        </Loaded>
      )}
    </Loaded>
  );
}

function CourseSheet({ course, plan }: Props) {
  const mayRecord = useMay("record");
  const [abandoning, setAbandoning] = useState(false);
  const [amending, setAmending] = useState<Step | null>(null);
  const step = useStepAtHand(course);
  return (
    <Page>
      <CourseHead course={course} today={plan.today} onAbandon={mayRecord ? () => setAbandoning(true) : null} />
      <PlanNav course={course} plan={plan} />
      {course.state === "abandoned" && (
        <div className="mt-4">
          <Notice tone="act">Abandoned: {course.abandoned_why}</Notice>
        </div>
      )}
      {course.is_open && <TooFewFall course={course} />}
      <HiveAgainst course={course} mayRecord={mayRecord} />
      {course.earlier && (
        <EarlierSheet course={course} earlier={course.earlier} today={plan.today} mayRecord={mayRecord} />
      )}
      {course.steps.length > 0 && (
        <div className="mt-6 grid items-start gap-x-12 gap-y-8 desk:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
          <div className="space-y-8">
            <AtHand course={course} plan={plan} step={step} />
            {!course.earlier && <WhyChosen course={course} today={plan.today} />}
          </div>
          <div className="min-w-0 space-y-5">
            <CourseStrip colonyId={course.colony_id} courseId={course.id} />
            <Steps course={course} today={plan.today} current={step} onAmend={mayRecord ? setAmending : null} />
            <Falls course={course} mayRecord={mayRecord} />
          </div>
        </div>
      )}
      {amending?.act && (
        <AmendAct
          course={course}
          act={amending.act}
          asks={amending.asks}
          title={courseStep(amending.name, course)}
          today={plan.today}
          onClose={() => setAmending(null)}
        />
      )}
      <Abandon open={abandoning} onClose={() => setAbandoning(false)} course={course} today={plan.today} />
    </Page>
  );
}

/** The step that the address names, else the one that is next. */
function useStepAtHand(course: Course): Step | undefined {
  const { step: wanted } = useSearch({ from: "/in/courses/$id" });
  if (!course.is_open) return undefined;
  return (
    course.steps.find((step) => step.name === wanted && step.act === null) ??
    course.steps.find((step) => step.name === course.next_step)
  );
}

function AtHand({ course, plan, step }: Props & { step: Step | undefined }) {
  const mayRecord = useMay("record");
  const { step: wanted, count } = useSearch({ from: "/in/courses/$id" });
  const [refused, setRefused] = useState<Refusal[]>([]);
  const checkCount = useCheckCount(course, step, count);
  // A step still to come is shown, not asked for, unless somebody opens it.
  const early = step !== undefined && step.earliest > plan.today && wanted !== step.name;
  const waiting = plan.courses.filter(
    (one) => one.placed_on === null && one.option.id === course.option.id && one.apiary_id === course.apiary_id,
  );
  return (
    <>
      <NotRecorded refused={refused} />
      {course.verdict && <VerdictSheet verdict={course.verdict} today={plan.today} />}
      {course.verdict && (course.verdict.word === "failed" || course.verdict.word === "partly") && (
        <WhyFailed course={course} />
      )}
      {!course.is_open && mayRecord && <OnToTheNext course={course} plan={plan} />}
      {course.is_open && hasHiveWork(course) && <HiveWork course={course} today={plan.today} mayRecord={mayRecord} />}
      {step && mayRecord && early && <NothingToday course={course} step={step} today={plan.today} />}
      {step && mayRecord && !early && (
        <RecordStep
          key={`${course.id}-${step.name}`}
          course={course}
          step={step}
          plan={plan}
          checkCount={checkCount}
          onRefused={setRefused}
        />
      )}
      {course.is_open &&
        course.option.mixing === "oxalic_solution" &&
        step?.kind !== "verify" &&
        course.placed_on === null && <OxalicBatch dosesMl={waiting.flatMap((one) => one.dose_quantity ?? [])} />}
    </>
  );
}

function NotRecorded({ refused }: { refused: Refusal[] }) {
  const say = useSay();
  if (refused.length === 0) return null;
  return (
    <div role="alert">
      <Notice tone="act">
        Not recorded:{" "}
        {refused.map((one) => (
          <span key={one.id} className="block">
            <TextLink to="/courses/$id" params={{ id: one.id }} className="font-semibold">
              {one.label}
            </TextLink>
            : {say(one.problem.message)}
          </span>
        ))}
      </Notice>
    </div>
  );
}

function OnToTheNext({ course, plan }: Props) {
  const others = plan.courses.filter((one) => one.id !== course.id);
  const uncounted = others.find((one) => one.state === "awaiting_verification");
  const following = uncounted ?? others.find((one) => one.state === "awaiting_outcome");
  if (!following) return null;
  return (
    <Link
      to="/courses/$id"
      params={{ id: following.id }}
      search={{ step: uncounted ? "verify" : "close" }}
      className="inline-flex min-h-16 items-center bg-ink px-6 text-lg font-semibold text-sheet">
      On to {following.label}, {uncounted ? "awaiting its check count" : "to confirm the outcome"}
    </Link>
  );
}

function NothingToday({ course, step, today }: { course: Course; step: Step; today: string }) {
  const navigate = useNavigate({ from: "/courses/$id" });
  return (
    <section aria-labelledby="rest" className="border-4 border-line-2 bg-sheet p-4 desk:p-5">
      <h2 id="rest" className="text-2xl">
        Nothing to do today.
      </h2>
      <p className="mt-1 text-ink-2">
        Next: <strong className="text-ink">{courseStep(step.name, course)}</strong>, best{" "}
        {relativeDay(step.ideal, today)}, {shortDay(step.ideal, today)}; not before {shortDay(step.earliest, today)}.
      </p>
      <Button className="mt-4" onClick={() => void navigate({ search: { step: step.name } })}>
        Record it earlier
      </Button>
    </section>
  );
}

type StepsProps = { course: Course; today: string; current: Step | undefined; onAmend: ((step: Step) => void) | null };

function Steps({ course, today, current, onAmend }: StepsProps) {
  const navigate = useNavigate({ from: "/courses/$id" });
  return (
    <section aria-labelledby="steps">
      <SectionHeading id="steps">Steps and their dates</SectionHeading>
      <ol>
        {course.steps.map((step) => (
          <StepRow
            key={step.name}
            step={step}
            today={today}
            course={course}
            current={current?.name === step.name}
            onOpen={() => void navigate({ search: { step: step.name } })}
            onAmend={course.state === "abandoned" ? null : onAmend}
          />
        ))}
      </ol>
    </section>
  );
}
