/** A hive of the round: what is done there now, what comes after it, and on to the next one. */
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { undoAct } from "@/client/commands/courses";
import { useSay } from "@/features/session/use-say";
import { useMay, useSession } from "@/features/session/use-session";
import { LinkButton, TextLink } from "@/ui/link";
import { Notice, SectionHeading } from "@/ui/page";
import { Undo } from "@/ui/undo";
import { quantity } from "@/ui/units";
import { courseStep } from "@/wording/words";
import { HiveAgainst } from "./hive-against";
import { HiveWork, hasHiveWork } from "./hive-work";
import { RecordStep } from "./record-step";
import { atHive, type Round, type Stop } from "./round-stops";
import type { Refusal } from "./record-all";
import type { Carried } from "./use-record-step";

type HiveProps = { stop: Stop; round: Round; carried: Carried | undefined; onRecorded: (carried: Carried) => void };

export function AtTheHive({ stop, round, carried, onRecorded }: HiveProps) {
  const say = useSay();
  const [refused, setRefused] = useState<Refusal[]>([]);
  const { course, steps } = stop;
  const step = course.steps.find((one) => one.name === steps[0]);
  const open = round.stops.filter(atHive);
  const at = open.findIndex((one) => one.course.id === course.id);
  const after = steps.slice(1).filter((name) => name !== "dispose");
  if (!step) return null;
  return (
    <section aria-labelledby="hive" className="space-y-3">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 id="hive" className="figure text-4xl">
          {course.label}
        </h2>
        <p className="text-ink-2">
          hive {at + 1} of {open.length},{" "}
          <TextLink to="/courses/$id" params={{ id: course.id }}>
            {course.option.short_name}
          </TextLink>
        </p>
      </div>
      {stop.is_suspect && (
        <Notice tone="act">
          <strong>A suspect colony: last in the round.</strong> A tool and gloves of its own; nothing goes from here
          into another hive.
        </Notice>
      )}
      <HiveAgainst course={course} mayRecord />
      {hasHiveWork(course) && <HiveWork course={course} today={round.today} mayRecord />}
      <RecordStep
        key={`${course.id}-${step.name}`}
        course={course}
        step={step}
        plan={{ today: round.today, courses: [course], steps: {} }}
        checkCount={undefined}
        onRefused={setRefused}
        carried={carried}
        onRecorded={onRecorded}
      />
      {refused.map((one) => (
        <p key={one.id} role="alert" className="font-semibold text-act">
          {say(one.problem.message)}
        </p>
      ))}
      {after.length > 0 && (
        <p className="text-ink-2">
          Then here: {after.map((name) => courseStep(name, course).toLowerCase()).join(", ")}.
        </p>
      )}
      <OtherHives open={open} at={at} apiary={round.apiary.id} />
    </section>
  );
}

/** To the hive before or after without recording anything: a hive may be left for later. */
function OtherHives({ open, at, apiary }: { open: Stop[]; at: number; apiary: string }) {
  const [before, after] = [open[at - 1], open[at + 1]];
  return (
    <div className="grid grid-cols-2 gap-2">
      {before ? (
        <LinkButton to="/treatment-round" search={{ apiary, course: before.course.id }}>
          Back to {before.course.label}
        </LinkButton>
      ) : (
        <span />
      )}
      {after && (
        <LinkButton to="/treatment-round" search={{ apiary, course: after.course.id }}>
          Leave it, on to {after.course.label}
        </LinkButton>
      )}
    </div>
  );
}

/** A hive is done: what was recorded of it today, and on to the next. */
export function NextHive({ round, courseId, open }: { round: Round; courseId: string; open: Stop[] }) {
  const navigate = useNavigate({ from: "/treatment-round" });
  const done = round.done.find((one) => one.id === courseId);
  const order = round.stops.findIndex((one) => one.course.id === courseId);
  const next = open.find((one) => round.stops.indexOf(one) > order) ?? open[0];
  return (
    <section aria-label="The next hive" className="border-4 border-ink bg-sheet p-4">
      <p className="text-2xl">{done ? `${done.label} is done for today.` : "Nothing to do here today."}</p>
      <div className="mt-3">
        {next ? (
          <button
            type="button"
            className="min-h-16 w-full bg-ink px-6 text-lg font-semibold text-sheet"
            onClick={() => void navigate({ search: { apiary: round.apiary.id, course: next.course.id } })}>
            Next: {next.course.label}
          </button>
        ) : (
          <p className="font-semibold">
            The round is done. <TextLink to="/">Back to today</TextLink>
          </p>
        )}
      </div>
      <DoneToday round={round} only={courseId} />
    </section>
  );
}

/** What was recorded of today, to be undone for a while. */
export function DoneToday({ round, only }: { round: Round; only?: string }) {
  const mayRecord = useMay("record");
  const { person } = useSession();
  const done = round.done
    .filter((course) => only === undefined || course.id === only)
    .flatMap((course) =>
      course.steps.flatMap((step) => (step.act?.done_on === round.today ? [{ course, step, act: step.act }] : [])),
    );
  if (done.length === 0) return null;
  return (
    <section aria-label="Done today" className="mt-3">
      {only === undefined && <SectionHeading id="done">Done today</SectionHeading>}
      <ul>
        {done.map(({ course, step, act }) => (
          <li key={act.id} className="flex flex-wrap items-center justify-between gap-x-3 border-b border-line py-1">
            <span>
              <strong>{course.label}</strong> {courseStep(step.name, course).toLowerCase()}
              {act.quantity !== null && `: ${quantity(act.quantity, act.quantity_unit ?? "")}`}
              {act.lot && `, lot ${act.lot}`}
              {act.outcome === "skipped" && " (skipped)"}
              {act.by_name && act.by_name !== person.name && `, recorded by ${act.by_name}`}
            </span>
            {act.may_undo && mayRecord && (
              <Undo
                label={`Undo: ${courseStep(step.name, course)} of ${course.label}`}
                text="Undo"
                undo={() => undoAct(course.id, act.id)}
              />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
