/** A colony in the list of all: by when it goes over, its days ahead, its level and its latest count. */
import { clsx } from "clsx";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { OutlookFan, type Ahead } from "@/instruments/outlook-fan";
import { addDays, relativeDay, shortDay } from "@/ui/dates";
import { LevelWord } from "@/ui/level";
import { TextLink } from "@/ui/link";
import { chance, rate } from "@/ui/units";
import { PER, capital } from "@/wording/words";

type Row = Schemas["ColonyInList"];
type Props = { colony: Row; view: Schemas["AssociationForecast"]; ahead: Ahead };

export const LISTED_COLUMNS = clsx(
  "grid grid-cols-[6.5rem_minmax(0,1fr)] gap-x-3 gap-y-1",
  "desk:grid-cols-[6.5rem_10rem_minmax(0,1fr)_17rem_8.5rem_6.5rem]",
);

export function ListedColony({ colony, view, ahead }: Props) {
  const { forecast } = colony;
  return (
    <li className={clsx("drawn-when-seen border-b border-line py-2 desk:items-center", LISTED_COLUMNS)}>
      <OverBy colony={colony} today={view.today} last={view.last} />
      <p className="min-w-0">
        <Link
          to="/colonies/$id"
          params={{ id: colony.colony_id }}
          className="figure inline-block min-h-8 pt-1 text-xl wrap-anywhere hover:underline">
          {colony.label}
        </Link>
        <span className="block truncate text-sm text-ink-2">
          {colony.apiary}, {colony.keeper}
        </span>
      </p>
      <div className="col-span-2 min-w-0 desk:col-span-1">
        {forecast && <OutlookFan ahead={ahead} of={forecast} label={colony.label} />}
      </div>
      <Words colony={colony} view={view} />
      <p className="col-span-2 flex flex-wrap gap-x-3 desk:col-span-1 desk:block">
        <LevelWord level={colony.level} />
        {colony.rate !== null && colony.scale && (
          <span className="self-center text-sm text-ink-2 desk:block">
            {rate(colony.rate)} {PER[colony.scale]}
          </span>
        )}
      </p>
      <p className="col-span-2 flex flex-wrap gap-x-3 text-sm text-ink-2 desk:col-span-1 desk:block">
        {colony.counted_on ? `counted ${shortDay(colony.counted_on, view.today)}` : "never counted"}
        {colony.in_course && <span className="block text-course">in a course</span>}
        {forecast?.counted_since && <span className="block">counted since the forecast</span>}
        {forecast?.disagree && <span className="block">counts disagree</span>}
      </p>
    </li>
  );
}

function OverBy({ colony: { forecast }, today, last }: { colony: Row; today: string; last: string }) {
  const when = "block font-head text-lg font-semibold leading-7";
  if (!forecast) return <p className="text-sm text-ink-2">no forecast</p>;
  if (forecast.date50 === null)
    return (
      <p className="text-sm text-ink-2">
        {forecast.date10 ? `perhaps ${shortDay(forecast.date10, today)}` : `not by ${shortDay(last, today)}`}
      </p>
    );
  if (forecast.date50 <= today)
    return (
      <p>
        <span className={when}>now</span>
      </p>
    );
  return (
    <p>
      <span className={when}>{shortDay(forecast.date50, today)}</span>
      <span className="text-sm text-ink-2">{relativeDay(forecast.date50, today)}</span>
    </p>
  );
}

function Words({ colony, view }: { colony: Row; view: Props["view"] }) {
  const say = useSentence();
  const { forecast } = colony;
  const wide = "col-span-2 desk:col-span-1";
  // Before the first run nobody has a forecast, and no colony is the cause of it.
  if (!forecast && view.tally.colonies === 0) return <span className={wide} />;
  if (!forecast)
    return (
      <p className={clsx("text-sm text-ink-2", wide)}>
        No count late enough to start from.{" "}
        <TextLink to="/bench" search={{ apiary: colony.apiary_id, colonies: [colony.colony_id] }}>
          Count {colony.label}
        </TextLink>
      </p>
    );
  const danger = forecast.danger_from;
  const isNear = danger !== null && danger <= addDays(view.today, view.look_ahead_days);
  // A chance that is next to certain says no more than the sentence above it.
  const isOpen = forecast.p_over_ahead > 0.05 && forecast.p_over_ahead < 0.95;
  return (
    <p className={wide}>
      <strong className="block leading-snug">{capital(say(forecast.turns))}</strong>
      <span className="block text-sm text-ink-2">
        {[
          isOpen && `over in three weeks: ${chance(forecast.p_over_ahead)}`,
          danger && !isNear && `at danger level from ${shortDay(danger, view.today)}`,
        ]
          .filter(Boolean)
          .join("; ")}
        {danger && isNear && <strong className="text-act">At danger level from {shortDay(danger, view.today)}</strong>}
      </span>
    </p>
  );
}
