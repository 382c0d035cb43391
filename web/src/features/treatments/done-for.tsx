/**
 * The colonies that a step is done for, each with what is measured at its hive: the dose, what came out, what is left
 * of the dose, the queen.
 */
import type { Schemas } from "@/client/types";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { Stepper } from "@/ui/stepper";
import { quantity } from "@/ui/units";
import { QUEEN_SEEN } from "./step-facts";
import type { useRecordStep } from "./use-record-step";

type Course = Schemas["CourseView"];
type Step = Schemas["StepView"];
type Recording = ReturnType<typeof useRecordStep>;

export function DoneFor({ recording, step }: { recording: Recording; step: Step }) {
  const { sharing, ticked, toggle, at } = recording;
  const wrong = at("quantity") ?? at("taken_out") ?? at("left_pct");
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Done for</legend>
      <ul className="border-t border-line">
        {sharing.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center justify-between gap-x-3 border-b border-line py-1">
            <Checkbox label={one.label} checked={ticked.has(one.id)} onChange={() => toggle(one.id)} />
            <MeasuredAt course={one} step={step} recording={recording} wrong={wrong !== undefined} />
          </li>
        ))}
      </ul>
      {wrong && (
        <p role="alert" className="mt-1 font-semibold text-act">
          {wrong}
        </p>
      )}
    </fieldset>
  );
}

/** What is measured at the one hive that the step is done for, with large targets. */
export function AtOneHive({ recording, step }: { recording: Recording; step: Step }) {
  const { sharing, measuredOf, measure, placing, removing, at } = recording;
  const [course] = sharing;
  if (!course) return null;
  const { dose, left, queen } = measuredOf(course);
  const unit = quantity(2, course.dose_unit).replace(/^\S+ /, "");
  const by = course.dose_unit === "ml" || course.dose_unit.startsWith("g") ? 5 : 1;
  const known = (text: string) => (text === "" ? null : Number(text));
  return (
    <div className="space-y-4">
      {(placing || removing) && (
        <Stepper
          label={removing ? "Came out" : "Placed"}
          value={known(dose)}
          unit={unit}
          step={by}
          most={1000}
          error={at(removing ? "taken_out" : "quantity")}
          onChange={(next) => measure(course.id, { dose: String(next ?? "") })}
        />
      )}
      {step.asks.includes("left_pct") && (
        <Stepper
          label="Left of the dose before"
          value={known(left)}
          unit="%"
          step={10}
          most={100}
          start={50}
          error={at("left_pct")}
          onChange={(next) => measure(course.id, { left: String(next ?? "") })}
        />
      )}
      {step.asks.includes("queen_seen") && (
        <ChoiceField
          label="Queen"
          value={queen}
          options={QUEEN_SEEN}
          columns={2}
          onChange={(next) => measure(course.id, { queen: next })}
        />
      )}
    </div>
  );
}

type MeasuredProps = { course: Course; step: Step; recording: Recording; wrong: boolean };

function MeasuredAt({ course, step, recording, wrong }: MeasuredProps) {
  const { measuredOf, measure, placing, removing } = recording;
  const { dose, left, queen } = measuredOf(course);
  const number = (label: string, value: string, unit: string, onChange: (value: string) => void) => (
    <label className="flex items-center gap-2">
      <span className="sr-only">{label}</span>
      <input
        inputMode="decimal"
        className="input w-20 text-right"
        value={value}
        onChange={(event) => onChange(event.target.value.replace(",", "."))}
        aria-invalid={wrong ? true : undefined}
      />
      <span className="w-14 text-sm">{unit}</span>
    </label>
  );
  const unit = quantity(Number(dose) || 0, course.dose_unit).replace(/^\S+ /, "");
  const said = removing ? `Came out of ${course.label}` : `Dose placed in ${course.label}`;
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
      {(placing || removing) && number(said, dose, unit, (next) => measure(course.id, { dose: next }))}
      {step.asks.includes("left_pct") &&
        number(`Left of the dose in ${course.label}`, left, "% left", (next) => measure(course.id, { left: next }))}
      {step.asks.includes("queen_seen") && (
        <select
          aria-label={`Queen of ${course.label}`}
          className="input w-auto"
          value={queen}
          onChange={(event) => measure(course.id, { queen: event.target.value })}>
          {QUEEN_SEEN.map(([id, text]) => (
            <option key={id} value={id}>
              {text}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}
