/** One option on the day chosen: what it would leave, for which colonies, its cautions, and the plan. */
import { useQuery } from "@tanstack/react-query";
import { Term } from "@/features/help/term";
import { Button } from "@/ui/button";
import { shortDay, weekday } from "@/ui/dates";
import { Details } from "@/ui/details";
import { TextLink } from "@/ui/link";
import { FormError } from "@/ui/field";
import { SelectField, TextField } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { quantity, rate } from "@/ui/units";
import { Problem } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { useMay } from "@/features/session/use-session";
import { colonies } from "@/wording/words";
import { ByLabel } from "./by-label";
import { OptionColonies } from "./option-colonies";
import { SOURCE, type Judged, type OptionRow, type Options } from "./option-rows";
import { placingDaysQuery } from "@/client/queries";
import { PlacingDays } from "./placing-days";
import { Schools } from "./schools";
import { usePlan, type Planning } from "./use-plan";

type Option = OptionRow["option"];

export function OptionSheet({ row, view }: { row: OptionRow; view: Options }) {
  const { option } = row;
  const planning = usePlan(row, view);
  const days = useQuery({ ...placingDaysQuery(view.apiary.id, option.id), enabled: option.chemical });
  const mayPlan = useMay("record");
  const example = (planning.taken[0] ?? row.per[0])?.judged;
  const rules = [...new Set(row.per.flatMap((one) => one.judged.reasons.map((reason) => reason.rule)))];
  return (
    <section aria-labelledby="option-name" className="min-w-0 border-t-2 border-ink pt-3">
      <p className="font-semibold">On {weekday(view.start_on)}</p>
      <h2 id="option-name" className="scroll-mt-24 text-2xl">
        {option.name}
      </h2>
      <ByLabel option={option} />
      {example && <Leaves option={option} of={planning.taken} judged={example} view={view} />}
      <NotKnownBefore row={row} view={view} />
      <OptionColonies row={row} view={view} planning={planning} />
      {option.interval_choices.length > 0 && <Interval option={option} planning={planning} />}
      <Order planning={planning} />
      {planning.overriding.length > 0 && <Overriding planning={planning} />}
      <Held planning={planning} />
      {mayPlan && <PlanButton planning={planning} example={example} view={view} />}
      <div className="mt-3">
        <Notice tone="act">
          <strong>You:</strong> {option.hazards_people}. Wear {option.ppe.join(", ")}.{" "}
          {option.check_label[0]?.toUpperCase()}
          {option.check_label.slice(1)}.
        </Notice>
      </div>
      <p className="mt-2 text-sm text-ink-2">
        Bees: {option.hazards_bees}. Hive: {option.hive_setup}
      </p>
      <PlacingDays found={days.data} today={view.forecast[0]?.day ?? view.start_on} />
      <Schools optionId={option.id} />
      <MoreOf option={option} rules={rules} />
    </section>
  );
}

/** Rules that look back say aloud where the record does not reach. */
function NotKnownBefore({ row, view }: { row: OptionRow; view: Options }) {
  const without = row.per.filter((one) => one.judged.needs_known_since !== null);
  const since = without.map((one) => one.colony.treatments_known_since).sort();
  const [first, last] = [since[0], since[since.length - 1]];
  if (first === undefined || last === undefined) return null;
  const all = without.length === row.per.length && row.per.length > 1;
  const before =
    first === last
      ? shortDay(first, view.start_on)
      : `${shortDay(first, view.start_on)} to ${shortDay(last, view.start_on)}`;
  return (
    <p className="mt-2">
      <strong>No earlier treatment known</strong> of{" "}
      {all ? `all ${row.per.length}` : without.map((one) => one.colony.label).join(", ")} before {before}: gap, yearly
      maximum and rotation are judged by what came after.{" "}
      <TextLink
        to="/earlier"
        search={{ apiary: view.apiary.id, colonies: without.map((one) => one.colony.colony_id) }}
        className="font-semibold">
        Add earlier treatments
      </TextLink>
    </p>
  );
}

type LeavesProps = { option: Option; of: OptionRow["per"]; judged: Judged; view: Options };

/** What it would leave in these colonies, when it ends, and what it may cost. */
function Leaves({ option, of, judged, view }: LeavesProps) {
  const { efficacy } = judged;
  const left = of.flatMap((one) => (one.judged.expected_after ? [one.judged.expected_after] : []));
  const after = left.length > 0 && {
    low: Math.min(...left.map((one) => one.low)),
    high: Math.max(...left.map((one) => one.high)),
  };
  const lost = option.queen_loss_pct;
  return (
    <p className="mt-1">
      {efficacy ? (
        <>
          <Term id="efficacy">Kills</Term>{" "}
          <strong>
            {efficacy.low} to {efficacy.high} %
          </strong>{" "}
          of all mites
        </>
      ) : (
        "What it kills is not known"
      )}
      {after && (
        <>
          , leaves{" "}
          <strong>
            {rate(after.low)} to {rate(after.high)}
          </strong>{" "}
          per 100 bees
        </>
      )}
      . Ends {shortDay(judged.ends_on, view.start_on)}
      {judged.in_time !== null && (judged.in_time ? ", in time for winter bees" : ", too late for winter bees")}. Queen
      lost in {lost.low} to {lost.high} %.
    </p>
  );
}

function MoreOf({ option, rules }: { option: Option; rules: string[] }) {
  return (
    <div className="mt-4">
      <Details title="More from the catalogue">
        <p>
          {option.active}; {option.form}. {option.efficacy_note}
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
    </div>
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

/** The register says why a colony was treated: a count and the calendar are known, an order is not. */
function Order({ planning }: { planning: Planning }) {
  return (
    <div className="mt-3">
      <Details title="Ordered by an authority" open={planning.order !== ""}>
        <TextField
          label="Reference of the order"
          name="order"
          hint="The register gives it as the reason"
          maxLength={200}
          value={planning.order}
          onChange={planning.setOrder}
        />
      </Details>
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

type ButtonProps = { planning: Planning; example: Judged | undefined; view: Options };

/** The button names how many colonies, the day and what it takes. */
function PlanButton({ planning, example, view }: ButtonProps) {
  const { plan, taken } = planning;
  const total = taken.reduce((sum, one) => sum + (one.judged.dose?.course_total ?? 0), 0);
  const takes = taken.length > 0 && example?.dose ? `, ${quantity(total, example.dose.unit)}` : "";
  return (
    <div className="sticky bottom-16 mt-4 bg-paper py-2 desk:static desk:py-0">
      <Button
        variant="main"
        big
        className="w-full leading-tight"
        disabled={taken.length === 0 || plan.isPending || planning.isUnsigned}
        onClick={() => plan.mutate()}>
        {plan.isPending
          ? "Planning …"
          : taken.length === 0
            ? "No colony may have it on this day"
            : `Plan ${colonies(taken.length)} for ${shortDay(view.start_on)}${takes}`}
      </Button>
      <FormError error={plan.error} fields={["interval_override"]} />
    </div>
  );
}
