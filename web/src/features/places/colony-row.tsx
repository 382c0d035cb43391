/** A colony of an apiary: who it is, its season, how it stands. */
import { clsx } from "clsx";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { SeasonStrip, type FanDay, type Span } from "@/instruments/season-strip";
import { Checkbox } from "@/ui/checkbox";
import { daysBetween } from "@/ui/dates";
import { LEVEL_FIGURE, LevelMark, QueenMark } from "@/ui/level";
import { rate } from "@/ui/units";
import { levelWord } from "@/wording/words";

type View = Schemas["ApiaryView"];
type Colony = Schemas["ColonyOverview"];

export function ColonyRow({
  place,
  view,
  colony,
  span,
  top,
  first,
  current,
  selected,
  onSelect,
}: {
  /** Where the row stands in the whole list, and what takes its height. */
  place: { index: number; of: number; measure: (row: Element | null) => void };
  view: View;
  colony: Colony;
  span: Span;
  top: number;
  first: boolean;
  current: boolean;
  selected: boolean;
  onSelect: (() => void) | null;
}) {
  const dense = view.colonies.length > 14;
  const outlook = view.axis === "mites_per_day" ? undefined : view.forecasts.find((one) => one.colony_id === colony.id);
  return (
    <li
      ref={place.measure}
      data-index={place.index}
      aria-posinset={place.index + 1}
      aria-setsize={place.of}
      id={`colony-${colony.id}`}
      className={clsx(
        "grid grid-cols-[minmax(0,auto)_minmax(0,1fr)] border-t border-line",
        "desk:grid-cols-[14.5rem_minmax(0,1fr)_11.5rem]",
        current && "bg-sheet shadow-[inset_3px_0_0_var(--ink)]",
      )}>
      <div className="flex items-start gap-2 py-2 pl-2">
        {onSelect && <Checkbox label={`Select ${colony.label}`} hidden checked={selected} onChange={onSelect} />}
        <ColonyName colony={colony} />
      </div>
      <div className="col-span-2 row-start-2 min-w-0 desk:col-span-1 desk:row-start-auto">
        <SeasonStrip
          span={span}
          height={dense ? 52 : 74}
          phases={view.phases}
          counts={view.counts.filter((one) => one.colony_id === colony.id)}
          courses={view.courses.filter((one) => one.colony_id === colony.id)}
          visits={view.visits.filter((one) => one.colony_id === colony.id).map((one) => one.visited_on)}
          level={colony.level}
          countedOn={colony.counted_on}
          label={`Colony ${colony.label}`}
          falls={view.axis === "mites_per_day"}
          top={top}
          scale={first}
          ahead={outlook ? fanOf(outlook) : []}
        />
      </div>
      <ColonyFigure view={view} colony={colony} />
    </li>
  );
}

/** The days ahead of a forecast as a strip draws them. */
function fanOf(outlook: Schemas["ColonyOutlook"]): FanDay[] {
  return outlook.days.map((date, at) => ({
    date,
    median: outlook.median[at] ?? 0,
    low80: outlook.low80[at] ?? 0,
    high80: outlook.high80[at] ?? 0,
  }));
}

function ColonyName({ colony }: { colony: Colony }) {
  return (
    <div className="min-w-0">
      <Link
        to="/colonies/$id"
        params={{ id: colony.id }}
        className={clsx(
          "figure inline-block min-h-8 max-w-full pt-1 wrap-anywhere hover:underline",
          colony.label.length > 8 ? "text-lg" : "text-2xl",
        )}>
        {colony.label}
      </Link>
      <p className="flex items-center gap-1.5 text-sm text-ink-2">
        {colony.mark_seen && <QueenMark colour={colony.mark_seen} />}
        <span className="whitespace-nowrap">
          {colony.state === "queenless"
            ? "queenless"
            : colony.queen_year
              ? `queen ${colony.queen_year}`
              : "queen not known"}
          {colony.mark_seen && <span className="sr-only">, marked {colony.mark_seen}</span>}
        </span>
      </p>
      {colony.strength !== null && (
        <p className="whitespace-nowrap text-sm text-ink-2">
          {colony.strength} {colony.strength_unit} of bees
        </p>
      )}
    </div>
  );
}

function ColonyFigure({ view, colony }: { view: View; colony: Colony }) {
  const age = colony.counted_on ? daysBetween(colony.counted_on, view.today) : null;
  return (
    <div className="flex items-center gap-3 self-center justify-self-end py-2 pl-3 desk:justify-self-stretch desk:pl-5">
      <LevelMark level={colony.level} size={20} />
      <div>
        <span className={clsx("figure block text-2xl", LEVEL_FIGURE[colony.level])}>
          {colony.level === "unknown" ? "?" : rate(colony.median ?? 0)}
        </span>
        <span className="block text-xs leading-tight text-ink-2">
          {colony.median === null
            ? "never counted"
            : colony.level === "unknown"
              ? `was ${rate(colony.median)}, ${age} days ago`
              : `${rate(colony.low ?? 0)} to ${rate(colony.high ?? 0)}, ${age === 0 ? "today" : `${age} d`}`}
        </span>
        <span className="block text-sm font-bold leading-tight">
          {levelWord(colony.level, view.scheme)}
          {colony.overdue_from ? ", overdue" : ""}
        </span>
      </div>
    </div>
  );
}
