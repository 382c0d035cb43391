/** A step of a course with its dates, what was done, and how far it moved. */
import { clsx } from "clsx";
import { undoAct } from "@/client/commands/courses";
import type { Schemas } from "@/client/types";
import { daysBetween, shortDay } from "@/ui/dates";
import { Undo } from "@/ui/undo";
import { quantity, temperature, type Units } from "@/ui/units";
import { useSession } from "@/features/session/use-session";
import { useSentence } from "@/features/session/use-sentence";
import { LATE } from "@/wording/sentences";
import { STEP_STATE, courseStep } from "@/wording/words";
import { StepGlyph } from "./step-glyph";

type Course = Schemas["CourseView"];
type Step = Schemas["StepView"];

const QUEEN = { queen: "Queen seen. ", eggs: "Eggs seen. ", neither: "Neither queen nor eggs seen. " } as const;

/** What was found at a step, in sentences. */
function factsSaid(facts: Schemas["StepFacts"], unit: string, units: Units): string {
  return [
    facts.temperature_c !== null && `${temperature(facts.temperature_c, units)}. `,
    facts.queen_seen !== null && QUEEN[facts.queen_seen],
    facts.left_pct !== null && `${facts.left_pct} % left. `,
    facts.taken_out !== null && `${quantity(facts.taken_out, unit)} out. `,
    facts.disposed && `${facts.disposed} `,
    facts.adverse && `Harm: ${facts.adverse}. `,
    facts.applied_by && `Applied by ${facts.applied_by}. `,
  ]
    .filter(Boolean)
    .join("");
}

export function StepRow({
  step,
  today,
  course,
  current,
  onOpen,
  onAmend,
}: {
  step: Step;
  today: string;
  course: Course;
  current: boolean;
  onOpen: () => void;
  onAmend: ((step: Step) => void) | null;
}) {
  const say = useSentence();
  const person = useSession().person;
  return (
    <li
      className={clsx(
        "grid grid-cols-[1.6rem_1fr] border-b border-line py-2",
        current && "bg-sheet pl-2 shadow-[inset_3px_0_0_var(--ink)]",
      )}>
      <StepGlyph state={step.state} />
      <div>
        <div className="flex flex-wrap items-baseline justify-between gap-x-4">
          {step.is_ready && !current ? (
            <button type="button" onClick={onOpen} className="min-h-8 text-left font-bold underline underline-offset-4">
              {courseStep(step.name, course)}
            </button>
          ) : (
            <span className={step.state === "pending" ? "" : "font-bold"}>{courseStep(step.name, course)}</span>
          )}
          <span className="text-right">
            {step.act ? shortDay(step.act.done_on, today) : shortDay(step.ideal, today)}
            {step.act === null && step.latest !== step.earliest && (
              <span className="text-sm text-ink-2">
                {" "}
                ({shortDay(step.earliest, today)} to {shortDay(step.latest, today)})
              </span>
            )}
          </span>
        </div>
        <p className="text-sm text-ink-2">
          {step.state === "overdue" ? (
            <strong className="text-act">overdue by {daysBetween(step.latest, today)} days. </strong>
          ) : (
            `${STEP_STATE[step.state]}. `
          )}
          {step.state === "overdue" && LATE[step.kind]}
          {step.hard_stop && step.act === null && "Hard stop: the latest date matters. "}
          {step.act && step.act.quantity !== null && (
            <>
              {quantity(step.act.quantity, step.act.quantity_unit ?? "")}
              {step.act.lot && `, lot ${step.act.lot}`}.{" "}
            </>
          )}
          {step.act && factsSaid(step.act.facts, step.act.quantity_unit ?? course.dose_unit, person)}
          {step.act && `${step.act.by_name}. `}
          {step.act?.note}
          {step.act && step.act.version > 1 && <em>amended. </em>}
          {step.act?.override_why &&
            ` Set aside by ${step.act.override_by}: ${step.act.override_why.replace(/\.$/, "")}.`}
          {step.act && onAmend && (
            <button
              type="button"
              className="min-h-14 px-1 underline underline-offset-4 desk:min-h-6 print:hidden"
              aria-label={`Amend: ${courseStep(step.name, course)}`}
              onClick={() => onAmend(step)}>
              Amend
            </button>
          )}
          {step.act?.may_undo && onAmend && (
            <Undo
              label={`Undo: ${courseStep(step.name, course)}`}
              text="Undo"
              undo={() => undoAct(course.id, step.act?.id ?? "")}
            />
          )}
        </p>
        {step.findings.map((one) => (
          <p key={one.code} className="text-sm font-semibold">
            {say(one)}.
          </p>
        ))}
        {step.moved_days !== 0 && !step.is_before_placing && (
          <p className="text-sm text-course">
            {Math.abs(step.moved_days)} {Math.abs(step.moved_days) === 1 ? "day" : "days"}{" "}
            {step.moved_days > 0 ? "later" : "earlier"} than planned ({shortDay(step.first_ideal, today)})
            {step.moved_why && `. ${say(step.moved_why)}`}
          </p>
        )}
      </div>
    </li>
  );
}
