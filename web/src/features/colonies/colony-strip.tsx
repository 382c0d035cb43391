/** The season of one colony, drawn large, with its forecast ahead; a tap on it tells the values of the day. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { forecastQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { SeasonStrip, StripHead, StripLegend, stripTop, type Broodless, type Span } from "@/instruments/season-strip";
import { addDays, dayNumber, shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import { useWidth } from "@/ui/use-width";
import { SCALE } from "@/wording/words";
import { drawnCourse } from "./drawn-course";

type View = Schemas["ColonyView"];
const NEAR_DAYS = 6;
const NOT_DRAWN: ReadonlySet<Schemas["CourseView"]["state"]> = new Set(["abandoned", "withdrawn"]);
/** A course is drawn with so many days before it, so that what led to it is seen. */
const BEFORE_COURSE_DAYS = 75;

type Props = {
  view: View;
  /** Of the courses only this one. */
  only?: string;
  /** Drawn lower, where it stands over a form. */
  low?: boolean;
};

export function ColonyStrip({ view, only, low = false }: Props) {
  const { colony } = view;
  const [box, width] = useWidth<HTMLDivElement>(900);
  const [picked, setPicked] = useState<string | null>(null);
  const forecast = useQuery(forecastQuery(colony.id));
  const ahead = forecast.data?.views[0]?.days ?? [];
  const shown = view.courses.filter((one) => (only ? one.id === only : !NOT_DRAWN.has(one.state)));
  const start = only && shown[0] ? (shown[0].placed_on ?? shown[0].start_on) : null;
  const first = start ? addDays(start, -BEFORE_COURSE_DAYS) : view.first;
  const span: Span = { first: first > view.first ? first : view.first, last: view.last, today: view.today, width };
  const falls = view.axis === "mites_per_day";
  const counted = view.points.flatMap((one) => (one.median === null ? [] : [one.median]));
  const top = stripTop([...counted, ...(falls ? [] : ahead.map((one) => one.high80))], falls);
  const open = view.courses.some((one) => one.is_open);
  const beginBy = !open && ["act", "urgent"].includes(colony.level) ? (view.latest?.last_start?.on ?? null) : null;
  return (
    <section className={low ? "" : "mt-4"} aria-label="Season">
      <div ref={box}>
        <StripHead span={span} phases={view.phases.filter((one) => one.last >= span.first)} />
        <SeasonStrip
          span={span}
          height={low ? 130 : 190}
          top={top}
          phases={view.phases.filter((one) => one.last >= span.first)}
          counts={view.points.filter((one) => one.taken_on >= span.first)}
          falls={falls}
          courses={shown.map(drawnCourse)}
          visits={view.visits.map((one) => one.visited_on).filter((day) => day >= span.first)}
          level={colony.level}
          countedOn={colony.counted_on}
          label={`Colony ${colony.label}`}
          scale
          ahead={ahead}
          pooled={pooledOf(view)}
          beginBy={beginBy}
          broodless={broodlessOf(view)}
          onPick={setPicked}
        />
      </div>
      <p role="status" className="min-h-6 font-semibold">
        {picked && said(view, ahead, picked)}
      </p>
      {!low && <StripLegend forecast={ahead.length > 0} broodless={broodlessOf(view) !== null} />}
    </section>
  );
}

/** The days on which no brood is capped, as the brood calendar has them. */
function broodlessOf({ brood, last }: View): Broodless | null {
  if (!brood || brood.state.window === "withdrawn" || brood.state.window === "never") return null;
  const { opens, closes, closes_at_earliest: sure } = brood.state;
  return { from: opens, to: closes ?? last, sureTo: sure ?? closes ?? last };
}

/** The figure of the colony where it is made of two counts, in the middle between them. */
function pooledOf({ colony, latest, points, phases, today }: View) {
  const two = points.filter((one) => one.median !== null && !one.converted).slice(-2);
  if (!latest?.pair || two.length < 2 || colony.median === null) return null;
  const middle = Math.round(two.reduce((sum, one) => sum + dayNumber(one.taken_on), 0) / 2);
  const now = phases.find((band) => band.first <= today && today <= band.last);
  return {
    on: new Date(middle * 86_400_000).toISOString().slice(0, 10),
    median: colony.median,
    low: colony.low ?? 0,
    high: colony.high ?? 0,
    over: colony.median >= (now?.act ?? Infinity),
    urgent: colony.median >= (now?.urgent ?? Infinity),
  };
}

/** The values of the day pointed at: of the count nearest to it, or of the forecast. */
function said(view: View, ahead: Schemas["Band"][], day: string): string {
  const far = (other: string) => Math.abs(dayNumber(other) - dayNumber(day));
  const [nearest] = [...view.points]
    .filter((one) => one.median !== null)
    .sort((a, b) => far(a.taken_on) - far(b.taken_on));
  const per = SCALE[view.axis];
  if (nearest && far(nearest.taken_on) <= NEAR_DAYS)
    return (
      `${shortDay(nearest.taken_on, view.today)}: ${rate(nearest.median ?? 0)} ${per}, ` +
      `${rate(nearest.low ?? 0)} to ${rate(nearest.high ?? 0)}`
    );
  const band = ahead.find((one) => one.date === day);
  if (band)
    return (
      `${shortDay(day, view.today)}, forecast: ${rate(band.median)} ${per}; ` +
      `in 8 of 10 cases ${rate(band.low80)} to ${rate(band.high80)}`
    );
  return `${shortDay(day, view.today)}: no count near this day`;
}
