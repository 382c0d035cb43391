/** One option in full: what it does, for which colonies, its cautions, and the plan. */
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { Details } from "@/ui/details";
import { FormError } from "@/ui/field";
import { SelectField, TextField } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { quantity, rate } from "@/ui/units";
import { Problem } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { colonies } from "@/wording/words";
import { OptionColonies } from "./option-colonies";
import { VerdictMark } from "./option-line";
import { SOURCE, type Judged, type OptionRow, type Options } from "./option-rows";
import { usePlan, type Planning } from "./use-plan";

type Option = OptionRow["option"];

export function OptionSheet({ row, view }: { row: OptionRow; view: Options }) {
  const { option } = row;
  const planning = usePlan(row, view);
  const example = (planning.taken[0] ?? row.per[0])?.judged;
  const rules = [...new Set(row.per.flatMap((one) => one.judged.reasons.map((reason) => reason.rule)))];
  return (
    <section aria-labelledby="option-name" className="border-t-2 border-ink pt-3">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 id="option-name" className="scroll-mt-16 text-2xl">
          {option.name}
        </h2>
        <VerdictMark verdict={row.all.verdict} />
      </div>
      <p className="mt-1 text-ink-2">
        {option.active}; {option.form}. {option.efficacy_note}
      </p>
      {example && <Figures option={option} judged={example} today={view.start_on} />}
      <OptionColonies row={row} view={view} planning={planning} />
      <Cautions option={option} rules={rules} />
      {option.interval_choices.length > 0 && <Interval option={option} planning={planning} />}
      {planning.overriding.length > 0 && <Overriding planning={planning} />}
      <Held planning={planning} />
      <PlanButton planning={planning} example={example} today={view.start_on} />
    </section>
  );
}

function Figures({ option, judged, today }: { option: Option; judged: Judged; today: string }) {
  const { efficacy, expected_after: after } = judged;
  const lost = option.queen_loss_pct;
  const figures = [
    ["kills", efficacy ? `${efficacy.low} to ${efficacy.high} %` : "not known", "of all mites"],
    ["leaves", after ? `${rate(after.low)} to ${rate(after.high)}` : "–", "mites per 100 bees"],
    [
      "ends",
      shortDay(judged.ends_on, today),
      judged.in_time === false ? "too late for winter bees" : "in time for winter bees",
    ],
    ["queen lost in", `${lost.low} to ${lost.high} %`, `of colonies; ${option.queen_loss_risk} risk`],
  ];
  return (
    <dl className="mt-4 grid grid-cols-2 gap-x-6 gap-y-3 desk:grid-cols-4">
      {figures.map(([label, figure, unit]) => (
        <div key={label}>
          <dt className="text-sm text-ink-2">{label}</dt>
          <dd>
            <span className="figure text-2xl">{figure}</span>
            <span className="block text-sm text-ink-2">{unit}</span>
          </dd>
        </div>
      ))}
    </dl>
  );
}

function Cautions({ option, rules }: { option: Option; rules: string[] }) {
  return (
    <>
      <div className="mt-4 grid gap-3 desk:grid-cols-2">
        <Notice tone="act">
          <strong>People:</strong> {option.hazards_people}. Wear {option.ppe.join(", ")}.{" "}
          {option.check_label[0]?.toUpperCase()}
          {option.check_label.slice(1)}.
        </Notice>
        <Notice>
          <strong>Bees:</strong> {option.hazards_bees}.
        </Notice>
      </div>
      <Details title="More from the catalogue">
        <p>
          <strong className="text-ink">Hive:</strong> {option.hive_setup}
        </p>
        <p>
          <strong className="text-ink">Honey:</strong> {option.honey_rule}
        </p>
        <p>
          <strong className="text-ink">Remains:</strong> {option.disposal}
        </p>
        <p>
          <strong className="text-ink">Resistance:</strong> {option.resistance_note}
        </p>
        {option.region_notes && (
          <p>
            <strong className="text-ink">Schools differ:</strong> {option.region_notes}
          </p>
        )}
        <p>
          Evidence: {option.evidence}. Rules that spoke: {rules.join(", ") || "none"}.
        </p>
      </Details>
    </>
  );
}

function Interval({ option, planning }: { option: Option; planning: Planning }) {
  const { error } = planning.plan;
  const choices = option.interval_choices.map((days) => [String(days), `${days} days`] as const);
  return (
    <div className="mt-3 max-w-xs">
      <SelectField
        label="Days between doses"
        name="interval"
        hint={`Labels say ${option.interval_choices.join(", ")}`}
        error={error instanceof Problem ? error.at("interval_override") : undefined}
        value={planning.interval}
        options={[["", "as the catalogue"], ...choices]}
        onChange={planning.setInterval}
      />
    </div>
  );
}

function Overriding({ planning }: { planning: Planning }) {
  const { overriding } = planning;
  const rules = overriding.flatMap(({ judged }) =>
    judged.reasons
      .filter((reason) => judged.holding.includes(reason.rule))
      .map((reason) => `${reason.rule} (${SOURCE[reason.source] ?? reason.source})`),
  );
  return (
    <fieldset className="mt-4 space-y-3 border-l-4 border-act pl-3">
      <legend className="font-semibold">
        Against the rules for {overriding.map((one) => one.colony.label).join(", ")}: somebody named takes it on, and
        the course keeps it for good
      </legend>
      <p className="text-sm text-ink-2">
        Rules overridden: {[...new Set(rules)].join(", ")}. Where a label or the law stands against it, name who
        authorised it; without that, leave it.
      </p>
      <TextField label="Who takes it on" name="who" maxLength={120} value={planning.who} onChange={planning.setWho} />
      <TextField label="Why" name="why" maxLength={400} value={planning.why} onChange={planning.setWhy} />
    </fieldset>
  );
}

function Held({ planning: { held } }: { planning: Planning }) {
  const say = useSentence();
  if (held.length === 0) return null;
  const why = held.map((one) => `${one.label} (${one.held_by.map(say).join("; ")})`);
  return (
    <div className="mt-4" role="alert">
      <Notice tone="act">Held back: {why.join(", ")}</Notice>
    </div>
  );
}

type ButtonProps = { planning: Planning; example: Judged | undefined; today: string };

function PlanButton({ planning, example, today }: ButtonProps) {
  const { plan, taken } = planning;
  const total = taken.reduce((sum, one) => sum + (one.judged.dose?.course_total ?? 0), 0);
  return (
    <>
      <div className="mt-5 flex flex-wrap items-center gap-4">
        <Button
          variant="main"
          big
          disabled={taken.length === 0 || plan.isPending || planning.isUnsigned}
          onClick={() => plan.mutate()}>
          {plan.isPending ? "Planning …" : `Plan the course for ${colonies(taken.length)}`}
        </Button>
        {taken.length > 0 && example?.dose && (
          <p className="text-sm text-ink-2">
            First dose {shortDay(today)}; {quantity(total, example.dose.unit)} in all.
          </p>
        )}
      </div>
      <div className="mt-2">
        <FormError error={plan.error} fields={["interval_override"]} />
      </div>
    </>
  );
}
