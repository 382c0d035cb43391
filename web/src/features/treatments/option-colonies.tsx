/** An option colony by colony: its dose, what is asked of it, and why; what holds for all of them is said once. */
import { Checkbox } from "@/ui/checkbox";
import { shortDay } from "@/ui/dates";
import { Details } from "@/ui/details";
import { quantity, rate } from "@/ui/units";
import { useSentence } from "@/features/session/use-sentence";
import { useMay, useSession } from "@/features/session/use-session";
import { MissingFact, factsAsked } from "./missing-fact";
import { SOURCE, isStartable, type Judged, type OptionRow, type Options } from "./option-rows";
import type { Planning } from "./use-plan";
import { VerdictMark } from "./verdict-mark";

type Props = { row: OptionRow; view: Options; planning: Planning };
type One = OptionRow["per"][number];
type Reason = Judged["reasons"][number];

export function OptionColonies({ row, view, planning }: Props) {
  const say = useSentence();
  const [first] = row.per;
  const key = (one: Reason) => `${one.rule} ${say(one)}`;
  const everywhere = (reason: Reason) =>
    row.per.length > 1 && row.per.every(({ judged }) => judged.reasons.some((one) => key(one) === key(reason)));
  const shared = first?.judged.reasons.filter(everywhere) ?? [];
  const alike = row.per.every(({ judged }) => judged.verdict === first?.judged.verdict);
  // Colonies of which the same is said stand together, in the order of the apiary.
  const groups = new Map<string, { own: Reason[]; per: One[] }>();
  for (const one of row.per) {
    const own = one.judged.reasons.filter((reason) => !everywhere(reason));
    const { verdict, from_day, weather_known } = one.judged;
    const said = JSON.stringify([verdict, from_day, weather_known, own.map(key)]);
    const group = groups.get(said) ?? { own, per: [] };
    group.per.push(one);
    groups.set(said, group);
  }
  return (
    <>
      {(shared.length > 0 || alike) && first && (
        <div className="mt-3">
          <p className="flex flex-wrap gap-x-3">
            {row.per.length > 1 && <strong>All {row.per.length}:</strong>}
            {alike && <VerdictMark verdict={first.judged.verdict} />}
          </p>
          <Reasons reasons={shared} />
        </div>
      )}
      <ul aria-label="Colony by colony" className="mt-3 border-t border-line">
        {[...groups.values()].map(({ own, per }) => (
          <Group key={per[0]?.colony.colony_id} own={own} per={per} view={view} planning={planning} alike={alike} />
        ))}
      </ul>
    </>
  );
}

type GroupProps = { own: Reason[]; per: One[]; view: Options; planning: Planning; alike: boolean };

/** What is said of some of the colonies alone, then each of them with its dose. */
function Group({ own, per, view, planning, alike }: GroupProps) {
  const judged = per[0]?.judged;
  const from = judged?.verdict === "not_now" ? judged.from_day : null;
  const says = own.length > 0 || !alike || from !== null;
  return (
    <li className="border-b border-line py-1.5">
      {judged && says && (
        <div className="pt-1">
          <p className="flex flex-wrap gap-x-2">
            {per.length > 1 && <strong>{per.map((one) => one.colony.label).join(", ")}:</strong>}
            {!alike && <VerdictMark verdict={judged.verdict} />}
            {from && (
              <span className="text-ink-2">
                from {shortDay(from, view.start_on)}
                {!judged.weather_known && " (weather not yet known)"}
              </span>
            )}
          </p>
          <Reasons reasons={own} />
        </div>
      )}
      <ul>
        {per.map((one) => (
          <Colony key={one.colony.colony_id} one={one} planning={planning} />
        ))}
      </ul>
    </li>
  );
}

type ColonyProps = { one: One; planning: Planning };

function Colony({ one: { colony, judged }, planning }: ColonyProps) {
  const startable = isStartable(judged);
  const overridden = planning.isOverridden(colony.colony_id);
  return (
    <li>
      <div className="flex items-center justify-between gap-3">
        <span className="flex shrink-0 items-baseline gap-2 whitespace-nowrap">
          <Checkbox
            label={colony.label}
            disabled={!startable && !overridden}
            checked={planning.isTaken(colony.colony_id)}
            onChange={() => planning.toggle(colony.colony_id)}
          />
          {colony.per_100 !== null && <span className="text-sm text-ink-2">{rate(colony.per_100)} per 100</span>}
          {!startable && judged.dose && !overridden && (
            <button
              type="button"
              className="min-h-14 text-sm underline underline-offset-4 desk:min-h-8"
              aria-label={`Override for ${colony.label}`}
              onClick={() => planning.override(colony.colony_id)}>
              Override
            </button>
          )}
        </span>
        <Dose judged={judged} />
      </div>
      <Asked one={{ colony, judged }} />
    </li>
  );
}

function Reasons({ reasons }: { reasons: Reason[] }) {
  const say = useSentence();
  const { today } = useSession();
  if (reasons.length === 0) return null;
  return (
    <ul className="text-sm text-ink-2">
      {reasons.map((reason) => (
        <li key={reason.rule}>
          {say(reason)}
          {reason.was_due && `, was due ${shortDay(reason.was_due, today)}`}{" "}
          <span className="text-ink-3">({SOURCE[reason.source] ?? reason.source})</span>
        </li>
      ))}
    </ul>
  );
}

/** What the rules need to know of this colony: in sight where it holds the option back, folded where it cautions. */
function Asked({ one: { colony, judged } }: { one: One }) {
  const mayRecord = useMay("record");
  const of = (caution: boolean) => factsAsked(judged.reasons.filter((one) => (one.level === "caution") === caution));
  const cautions = of(true);
  if (!mayRecord) return null;
  const ask = (fact: (typeof cautions)[number]) => (
    <MissingFact key={fact} colonyId={colony.colony_id} label={colony.label} fact={fact} />
  );
  const folded = cautions.length > 0 && <Details title={`Not known of ${colony.label}`}>{cautions.map(ask)}</Details>;
  return (
    <>
      {of(false).map(ask)}
      {folded}
    </>
  );
}

function Dose({ judged }: { judged: Judged }) {
  if (!judged.dose) return null;
  return (
    <span className="text-right">
      <strong>{quantity(judged.dose.quantity, judged.dose.unit)}</strong>
      {judged.dose.converted && <span className="block text-sm text-ink-2">converted from the other measure</span>}
      {judged.dose.capped && <span className="block text-sm text-ink-2">at its maximum</span>}
    </span>
  );
}
