/**
 * The step at hand: when it is best, what stands against it today, the usual cautions, and the form that records it.
 */
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { relativeDay, shortDay } from "@/ui/dates";
import { FormError } from "@/ui/field";
import { ChoiceField } from "@/ui/choice";
import { Details } from "@/ui/details";
import { DateField } from "@/ui/date-field";
import { Form, TextField } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { useSay } from "@/features/session/use-say";
import { useSentence } from "@/features/session/use-sentence";
import { colonies, courseStep } from "@/wording/words";
import { CheckCount, ToTheBench, type useCheckCount } from "./check-count";
import { AtOneHive, DoneFor } from "./done-for";
import { LotField } from "./lot-field";
import { PlacingDays } from "./placing-days";
import { coursePlacingDaysQuery } from "@/client/queries";
import { StepFacts } from "./step-facts";
import type { Refusal } from "./record-all";
import { useRecordStep, type Carried } from "./use-record-step";

type Course = Schemas["CourseView"];
type Step = Schemas["StepView"];
type Props = {
  course: Course;
  step: Step;
  plan: Schemas["PlanView"];
  checkCount: ReturnType<typeof useCheckCount>;
  onRefused: (refused: Refusal[]) => void;
  carried?: Carried | undefined;
  onRecorded?: ((carried: Carried) => void) | undefined;
};
type Recording = ReturnType<typeof useRecordStep>;

/** What is asked for with each kind of step; a dose, an interim check and a check count say it in their own place. */
const ASKED: Record<Step["kind"], string> = {
  prepare: "Product at hand and in date, protective gear, label read.",
  close_supers_feeder: "",
  remove: "Count out what was placed: as many out as went in. Put entrance and floor back.",
  end: "The stay is over. Put entrance and floor back.",
  dispose: "How, where and how much.",
  baseline_count: "",
  place: "",
  interim_check: "",
  verify: "",
  honey_clear: "",
  close: "Accept this result?",
};

const SUPERS = [
  ["off", "off, or none were on"],
  ["on", "left on: my label says so"],
] as const;

function askedAt(step: Step, option: Course["option"]): string {
  if (step.kind === "interim_check") return option.interim_ask;
  if (step.kind === "prepare" && !option.chemical) return "Kit at hand, and a second pair of hands where it is heavy.";
  if (step.kind !== "close_supers_feeder") return ASKED[step.kind];
  const supers = {
    no: "Honey supers off or moved",
    label: "Honey supers off, unless your label lets them stay",
    yes: "",
  };
  const said = [supers[option.supers], option.feeding_during ? "" : "no feed in the hive, feeder off"].filter(Boolean);
  return `${said.join("; ")}; floor and entrance as the set-up says.`;
}

export function RecordStep({ course, step, plan, checkCount, ...rest }: Props) {
  const { today } = plan;
  const countId = step.kind === "verify" ? (checkCount?.id ?? null) : null;
  const recording = useRecordStep({ course, step, plan, countId, ...rest });
  const asksWeather = recording.placing && course.option.chemical;
  const days = useQuery({ ...coursePlacingDaysQuery(course.id), enabled: asksWeather });
  const counting = step.kind === "verify" && !checkCount;
  const sheet = (
    <section aria-labelledby="act" className="border-4 border-ink bg-sheet p-4 desk:p-5">
      <h2 id="act" className="text-2xl">
        {courseStep(step.name, course)}
      </h2>
      <p className="mt-1 text-ink-2">
        Best {relativeDay(step.ideal, today)}, {shortDay(step.ideal, today)}; not before{" "}
        {shortDay(step.earliest, today)}, at the latest {shortDay(step.latest, today)}. {askedAt(step, course.option)}
      </p>
      <Late course={course} step={step} />
      <Weather step={step} today={today} />
      {asksWeather && <PlacingDays found={days.data} today={today} />}
      {recording.placing &&
        (rest.carried?.packs[course.option.id] ? (
          <CautionsAgain option={course.option} />
        ) : (
          <Cautions option={course.option} />
        ))}
      {counting ? (
        checkCount === null && (
          <div className="mt-4">
            <p>
              A wash after the course, from {shortDay(step.earliest, today)} on, is compared with the count before it
              {plan.courses.length > 1 ? ", colony by colony" : ""}.
            </p>
            <ToTheBench course={course} plan={plan} step={step} again={false} />
          </div>
        )
      ) : (
        <StepForm course={course} step={step} plan={plan} checkCount={checkCount} recording={recording} />
      )}
    </section>
  );
  // A step that is done act by act is recorded with the last of them; who did not do it so says only that it was done.
  return step.by_acts ? (
    <Details title="Record the step in one go, without queen, boxes and combs">{sheet}</Details>
  ) : (
    sheet
  );
}

/** What it costs that the step, or what comes before it, is late. */
function Late({ course, step }: { course: Course; step: Step }) {
  const say = useSentence();
  if (course.late.length === 0 || !(step.is_before_placing || step.kind === "place" || step.kind === "remove"))
    return null;
  return (
    <div className="mt-3">
      <Notice tone="watch">
        {course.late.map((one) => (
          <span key={one.code} className="block">
            {say(one)}.
          </span>
        ))}
      </Notice>
    </div>
  );
}

function Weather({ step, today }: { step: Step; today: string }) {
  const say = useSentence();
  if (step.weather.length === 0) return null;
  const waits = step.state === "waiting_for_weather";
  return (
    <div className="mt-3">
      <Notice tone={waits ? "act" : "watch"}>
        {step.weather.map(say).join(". ")}.{" "}
        {waits &&
          (step.next_usable ? (
            <strong>Next usable day: {shortDay(step.next_usable, today)}. The next steps move with it.</strong>
          ) : (
            "No usable day in the forecast."
          ))}
      </Notice>
    </div>
  );
}

function Cautions({ option }: { option: Course["option"] }) {
  return (
    <div className="mt-3 space-y-2">
      <Notice tone="act">
        <strong>You:</strong> {option.hazards_people}. Wear {option.ppe.join(", ")}.
      </Notice>
      <Notice>
        <strong>Hive:</strong> {option.hive_setup}. {option.check_label[0]?.toUpperCase()}
        {option.check_label.slice(1)}.
      </Notice>
    </div>
  );
}

/** At the next hive that gets the same they were read a moment ago. */
function CautionsAgain({ option }: { option: Course["option"] }) {
  return (
    <Details title="The cautions again" open={false}>
      <Cautions option={option} />
    </Details>
  );
}

type FormProps = Pick<Props, "course" | "step" | "plan" | "checkCount"> & { recording: Recording };

function StepForm({ course, step, plan, checkCount, recording }: FormProps) {
  const say = useSay();
  const { today } = plan;
  const { entry, set, at, placing, ticked, record } = recording;
  const onDay = at("done_on");
  return (
    <Form className="mt-4 space-y-4 print:hidden" onSubmit={recording.submit}>
      {checkCount && <CheckCount found={checkCount} today={today} />}
      <DateField
        label="Done on"
        name="done_on"
        error={onDay && say(onDay)}
        max={today}
        value={entry.day}
        onChange={(day) => set({ day })}
      />
      {step.kind === "close_supers_feeder" && course.option.supers === "label" && (
        <ChoiceField
          label="Honey supers"
          value={entry.supersOn ? "on" : "off"}
          options={SUPERS}
          error={at("supers_on")}
          onChange={(value) => set({ supersOn: value === "on" })}
        />
      )}
      {!recording.alone && recording.sharing.length > 1 && <DoneFor recording={recording} step={step} />}
      {!recording.alone && recording.sharing.length === 1 && <AtOneHive recording={recording} step={step} />}
      {placing && (
        <LotField
          option={course.option}
          lotId={recording.lotId}
          lot={entry.lot}
          needed={recording.needed}
          today={today}
          errorId={at("lot_id")}
          error={
            recording.lotMissing
              ? "The register asks for the lot: write it from the pack, or record again without it."
              : at("lot")
          }
          onChange={(lotId, lot) => set({ lotId, lot })}
        />
      )}
      <StepFacts
        asks={step.asks}
        facts={recording.facts}
        set={recording.setFacts}
        at={at}
        unit={course.dose_unit}
        apart={!recording.alone}
      />
      <TextField
        label="Note"
        name="note"
        error={at("note")}
        maxLength={2000}
        value={entry.note}
        onChange={(note) => set({ note })}
      />
      {recording.overriding && <Override recording={recording} />}
      {recording.general.length > 0 && (
        <div role="alert" className="space-y-1 font-semibold text-act">
          {recording.general.map((one) => (
            <p key={one.label}>
              {one.label}: {say(one.problem.message)}
            </p>
          ))}
        </div>
      )}
      <FormError error={record.error} fields={[]} />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" variant="main" big disabled={record.isPending || ticked.size === 0}>
          {record.isPending ? "Recording …" : submitText(step, course, recording.sharing.length, ticked.size)}
        </Button>
        {checkCount && <ToTheBench course={course} plan={plan} step={step} again />}
        {step.may_be_skipped && (
          <Button onClick={() => record.mutate("skipped")} disabled={record.isPending}>
            Skip it (say why)
          </Button>
        )}
      </div>
    </Form>
  );
}

function submitText(step: Step, course: Course, sharing: number, chosen: number): string {
  if (step.kind === "close") return "Accept this result";
  if (step.kind === "verify") return "Verify the course with this count";
  return `Record it for ${sharing === 1 ? course.label : colonies(chosen)}`;
}

function Override({ recording: { entry, set } }: { recording: Recording }) {
  return (
    <fieldset className="space-y-3 border-l-4 border-act pl-3">
      <legend className="font-semibold">Override: somebody named answers for it, and the course keeps it</legend>
      <TextField label="Who takes it on" name="who" value={entry.who} onChange={(who) => set({ who })} />
      <TextField label="Why" name="why" value={entry.reason} onChange={(reason) => set({ reason })} />
    </fieldset>
  );
}
