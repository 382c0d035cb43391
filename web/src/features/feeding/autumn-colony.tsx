/** One colony of the autumn programme: what it has, lacks and is fed when; the dates of its steps in their order. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { useSession } from "@/features/session/use-session";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { litres, weight } from "@/ui/units";
import { INSTEAD, PROGRAMME, STORES_BY } from "@/wording/words";

type Colony = Schemas["ColonyAutumn"];

export function AutumnColony({ of, today }: { of: Colony; today: string }) {
  const say = useSentence();
  const plan = of.programme;
  return (
    <li className="grid gap-x-8 gap-y-1 border-b border-line py-3 desk:grid-cols-[8rem_minmax(0,1fr)_minmax(0,1.3fr)]">
      <div>
        <TextLink to="/colonies/$id" params={{ id: of.colony_id }} className="figure text-2xl">
          {of.label}
        </TextLink>
        <p className={clsx("text-sm", plan.word === "too_late" ? "font-semibold text-act" : "text-ink-2")}>
          {PROGRAMME[plan.word]}
        </p>
      </div>
      <Stores of={of} today={today} />
      <div>
        <Steps of={of} today={today} />
        {plan.because.map((one) => (
          <p key={one.code} className="text-sm text-ink-2">
            {say(one)}.
          </p>
        ))}
        {of.untouched_on && (
          <p className="text-sm font-semibold">
            Feed was found untouched on {shortDay(of.untouched_on, today)}: queen, sickness or too few bees to take it?
          </p>
        )}
        {plan.instead.length > 0 && (
          <p className="text-sm">
            <strong>Instead:</strong> {plan.instead.map((one) => INSTEAD[one]).join("; ")}.
          </p>
        )}
      </div>
    </li>
  );
}

function Stores({ of, today }: { of: Colony; today: string }) {
  const units = useSession().person;
  const plan = of.programme;
  const judged = [
    of.stores_on && `Judged ${shortDay(of.stores_on, today)}`,
    of.stores_by && STORES_BY[of.stores_by],
  ].filter(Boolean);
  if (plan.stores_kg === null) return <p className="text-ink-2">Stores were not judged lately.</p>;
  const range = `${weight(plan.low_kg ?? 0, units)} to ${weight(plan.high_kg ?? 0, units)}`;
  return (
    <div>
      <p>
        <span className="figure text-xl">{weight(plan.stores_kg, units)}</span>, {range}
        {plan.lacks_kg !== null && plan.lacks_kg > 0 && (
          <>
            ; lacks <strong>{weight(plan.lacks_kg, units)}</strong> of {weight(plan.target_kg, units)}
          </>
        )}
      </p>
      <p className="text-sm text-ink-2">
        {judged.join(", ")}
        {plan.fed_kg > 0 && `; fed since ${weight(plan.fed_kg, units)}`}
        {plan.eaten_kg >= 0.1 && `; eaten about ${weight(plan.eaten_kg, units)}`}
        {plan.days_left !== null && `. Lasts about ${plan.days_left} days`}.
      </p>
    </div>
  );
}

function Steps({ of, today }: { of: Colony; today: string }) {
  const units = useSession().person;
  const plan = of.programme;
  const day = (iso: string) => shortDay(iso, today);
  const course = of.course;
  return (
    <ol className="space-y-0.5">
      {of.to_treat && (
        <li>
          <strong>Treat</strong>: over the threshold, no treatment planned.{" "}
          <TextLink to="/treat" search={{ apiary: of.apiary_id, colonies: [of.colony_id] }}>
            Choose
          </TextLink>
        </li>
      )}
      {course && (
        <li>
          <strong>Treat</strong> until {day(course.ends_on)}:{" "}
          <TextLink to="/courses/$id" params={{ id: course.id }}>
            {course.name}
          </TextLink>
        </li>
      )}
      {of.fed.map((one, at) => (
        <li key={`fed-${at}`} className="text-ink-2">
          Fed {day(one.on)}
          {one.amount !== null &&
            `: ${one.feed.startsWith("syrup") ? litres(one.amount, units) : weight(one.amount, units)}`}
        </li>
      ))}
      {plan.rounds.map((one, at) => (
        <li key={one.on}>
          <strong>{at === 0 ? "Feed" : "then"}</strong> {day(one.on)}: {litres(one.litres, units)}
          {one.days > 1 && `, taken in about ${one.days} days`}
          {at === 0 && plan.begin_by && plan.begin_by > one.on && `; begin by ${day(plan.begin_by)}`}
        </li>
      ))}
      {plan.weigh_on && (
        <li>
          <strong>Weigh</strong> {day(plan.weigh_on)}
          {course?.check_on && `; check count ${day(course.check_on)}`}
        </li>
      )}
      {plan.close_on && (
        <li>
          <strong>Close down</strong> {day(plan.close_on)}: feeder off, entrance small, guard on
        </li>
      )}
    </ol>
  );
}
