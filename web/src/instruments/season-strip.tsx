/**
 * The season strip: one row a colony, days across, today between past and future. Counts with their 95 % bars on the
 * rate scale, the act level as a stepped line, courses as bars with their placings, withdrawal hatched, visits as
 * ticks. Without a count the row is hatched.
 */
import type { Level, Schemas } from "@/client/types";
import type { PointerEvent } from "react";
import { addDays, daysBetween, dayNumber, monthName, shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import { PHASE } from "@/wording/words";
import { rateShare } from "./scale";
import {
  ActLine,
  BAND_FILL,
  BeginBy,
  BroodlessDays,
  Counts,
  Courses,
  PhaseBands,
  PooledMark,
  type Axes,
  type Pooled,
} from "./strip-marks";

type Band = Schemas["PhaseBand"];
export type StripCount = Schemas["StripCount"];
export type DrawnCourse = Pick<
  Schemas["DrawnCourse"],
  "id" | "short_name" | "occupies_from" | "occupies_to" | "honey_clear_on" | "placings" | "state"
>;

/** No brood is capped from a day to another, for certain up to `sureTo`. */
export type Broodless = { from: string; to: string; sureTo: string };

export type Span = { first: string; last: string; today: string; width: number };

export function xOf(span: Span, day: string): number {
  const share = (dayNumber(day) - dayNumber(span.first)) / (dayNumber(span.last) - dayNumber(span.first));
  return Math.min(Math.max(share, 0), 1) * span.width;
}

/** Months and season phases above a block of strips. */
export function StripHead({ span, phases }: { span: Span; phases: Band[] }) {
  const months: string[] = [];
  for (let day = dayNumber(span.first); day <= dayNumber(span.last); day++) {
    const iso = new Date(day * 86_400_000).toISOString().slice(0, 10);
    if (iso.endsWith("-01")) months.push(iso);
  }
  const today = xOf(span, span.today);
  const room = span.width / Math.max(1, months.length);
  const narrow = room < 74;
  const every = Math.ceil(34 / room);
  return (
    <svg width={span.width} height="58" className="block" aria-hidden="true">
      {months.map((month, index) => {
        const x = xOf(span, month);
        if (x > span.width - 24 || index % every !== 0) return null;
        return (
          <g key={month}>
            <path d={`M${x} 20v14`} stroke="var(--line-2)" />
            {Math.abs(x + 20 - today) > 10 && (
              <text x={x + 4} y="33" fontSize="14" fill="var(--ink-2)">
                {narrow ? monthName(month).slice(0, 3) : monthName(month)}
              </text>
            )}
          </g>
        );
      })}
      <text x={Math.min(today, span.width - 96)} y="14" fontSize="14" fontWeight="700" fill="var(--ink)">
        today, {shortDay(span.today)}
      </text>
      <path d={`M${today} 18V58`} stroke="var(--ink)" strokeWidth="1.5" />
      {phases.map((band) => {
        const from = xOf(span, band.first);
        const to = xOf(span, band.last);
        const text = PHASE[band.phase];
        if (to - from < text.length * 7) return null;
        return (
          <g key={band.first}>
            <rect x={from} y="36" width={to - from} height="22" fill={BAND_FILL[band.phase]} />
            <text x={from + 6} y="52" fontSize="14" fill="var(--ink-2)">
              {text}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** A day of a forecast: its middle and 80 % band, and the others where they are known. */
export type FanDay = Pick<Schemas["Band"], "date" | "median" | "low80" | "high80"> & Partial<Schemas["Band"]>;

/** The bands of a forecast, 95, 80 and 50 % one in the other, with the middle as a broken line. */
export function Fan({ days, x, y }: { days: FanDay[]; x: (day: string) => number; y: (per100: number) => number }) {
  const [first] = days;
  if (!first || days.length < 2) return null;
  const edge = (low: keyof FanDay, high: keyof FanDay) =>
    `M${days.map((band) => `${x(band.date)} ${y(Number(band[high]))}`).join("L")}L${[...days]
      .reverse()
      .map((band) => `${x(band.date)} ${y(Number(band[low]))}`)
      .join("L")}Z`;
  return (
    <g>
      {first.low95 !== undefined && <path d={edge("low95", "high95")} fill="var(--ink)" opacity="0.09" />}
      <path d={edge("low80", "high80")} fill="var(--ink)" opacity="0.13" />
      {first.low50 !== undefined && <path d={edge("low50", "high50")} fill="var(--ink)" opacity="0.18" />}
      <path
        d={`M${days.map((band) => `${x(band.date)} ${y(band.median)}`).join("L")}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.6"
        strokeDasharray="6 3"
      />
    </g>
  );
}

/** How high the scale of strips reaches: to the highest figure drawn, so that none sits lower than it is. */
export function stripTop(figures: number[], falls: boolean): number {
  const highest = Math.max(0, ...figures);
  const tops = falls ? [60, 90, 150, 300] : [20, 30, 50, 75, 100];
  return tops.find((top) => highest <= top) ?? highest;
}

const TICKS = [100, 50, 30, 20, 10, 5, 2, 1];

/** The figures at the side, from the top down, as many as keep clear of one another. */
function ticksThatFit(y: (value: number) => number, top: number, falls: boolean): number[] {
  const shown: number[] = [];
  for (const tick of TICKS.map((one) => (falls ? 3 * one : one)).filter((one) => one <= top)) {
    const last = shown.at(-1);
    if (last === undefined || y(tick) - y(last) >= 14) shown.push(tick);
  }
  return shown;
}

type Props = {
  span: Span;
  height: number;
  phases: Band[];
  counts: StripCount[];
  courses: DrawnCourse[];
  visits: string[];
  level: Level;
  countedOn: string | null;
  label: string;
  /** The highest figure that the strip, or the block of strips, has room for. */
  top: number;
  scale?: boolean;
  /** What the forecast says of the days to come: drawn from the last count on. */
  ahead?: FanDay[];
  /** Mites a day on a board, in place of mites per 100 bees. */
  falls?: boolean;
  pooled?: Pooled | null;
  beginBy?: string | null;
  broodless?: Broodless | null;
  /** A day that was pointed at. */
  onPick?: (day: string) => void;
};

export function SeasonStrip(props: Props) {
  const { span, height, phases, counts, level, countedOn, label, top, scale = false, ahead = [] } = props;
  const { falls = false, pooled = null, beginBy = null, broodless = null, onPick } = props;
  const floor = height - 12;
  const y = (value: number) => floor - rateShare(value, top) * (floor - 6);
  const x = (day: string) => xOf(span, day);
  const axes: Axes = { x, y, height, floor };
  const staleFrom = level === "unknown" ? (countedOn ?? span.first) : null;
  const days = daysBetween(span.first, span.last);
  const pick = (event: PointerEvent<SVGSVGElement>) => {
    const share = (event.clientX - event.currentTarget.getBoundingClientRect().left) / span.width;
    onPick?.(addDays(span.first, Math.round(share * days)));
  };
  return (
    <svg
      width={span.width}
      height={height}
      className="block"
      role="img"
      onPointerDown={pick}
      aria-label={`${label}: ${falls ? "mites a day" : "mites per 100 bees"}: ${inWords(props)}`}>
      <Patterns />
      <PhaseBands phases={phases} axes={axes} />
      {staleFrom !== null && (
        <rect
          x={x(staleFrom)}
          y="4"
          width={Math.max(0, x(span.today) - x(staleFrom))}
          height={height - 8}
          fill="url(#strip-hatch)"
          opacity="0.55"
        />
      )}
      <Courses courses={props.courses} axes={axes} />
      <ActLine phases={phases} axes={axes} />
      {!falls && <Fan days={ahead.filter((band) => band.date <= span.last)} x={x} y={y} />}
      {scale && <Scale y={y} top={top} falls={falls} />}
      <Counts counts={counts} phases={phases} axes={axes} />
      {pooled && <PooledMark pooled={pooled} axes={axes} />}
      {broodless && <BroodlessDays days={broodless} span={span} axes={axes} />}
      {beginBy && <BeginBy day={beginBy} name={`begin by ${shortDay(beginBy)}`} axes={axes} />}
      {props.visits.map((day) => (
        <path key={day} d={`M${x(day)} ${height}v-5`} stroke="var(--ink-3)" strokeWidth="1.2" />
      ))}
      <path d={`M${x(span.today)} 0V${height}`} stroke="var(--ink)" strokeWidth="1.5" />
    </svg>
  );
}

/** What the strip shows, for whoever does not see it. */
function inWords({ counts, ahead = [], pooled, beginBy, broodless, courses, span }: Props): string {
  const known = counts.filter((count) => count.median !== null).slice(-4);
  const last = ahead.at(-1);
  const figure = (count: StripCount) =>
    `${shortDay(count.taken_on)} ${rate(count.median ?? 0)}${count.converted ? " converted from a board" : ""}`;
  const parts = [
    known.length === 0 ? "not counted in this span" : known.map(figure).join(", "),
    pooled && `from both ${rate(pooled.median)}, ${rate(pooled.low)} to ${rate(pooled.high)}`,
    ...courses.slice(-2).map((one) => `${one.short_name} from ${shortDay(one.occupies_from, span.today)}`),
    broodless && `no capped brood from ${shortDay(broodless.from)} to ${shortDay(broodless.to)}`,
    beginBy && `begin a treatment by ${shortDay(beginBy)}`,
    last && `forecast ${shortDay(last.date)} ${rate(last.median)}, ${rate(last.low80)} to ${rate(last.high80)}`,
  ];
  return parts.filter(Boolean).join("; ");
}

function Scale({ y, top, falls }: { y: (value: number) => number; top: number; falls: boolean }) {
  return (
    <>
      {ticksThatFit(y, top, falls).map((tick, at) => (
        <g key={tick}>
          <path d={`M0 ${y(tick)}h5`} stroke="var(--line-2)" />
          <text
            x="7"
            y={y(tick) + 4}
            fontSize="13"
            fill="var(--ink-2)"
            stroke="var(--paper)"
            strokeWidth="3"
            paintOrder="stroke">
            {tick}
            {at === 0 && (falls ? " mites a day" : " per 100 bees")}
          </text>
        </g>
      ))}
    </>
  );
}

function Patterns() {
  return (
    <defs>
      <pattern id="strip-hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0V7" stroke="var(--line-2)" strokeWidth="1.4" />
      </pattern>
      <pattern id="strip-honey" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <path d="M0 0V5" stroke="var(--course)" strokeWidth="1.2" />
      </pattern>
    </defs>
  );
}

/** What the marks on the strips mean; it stands under them at every size. */
export function StripLegend({ forecast = false, broodless = false }: { forecast?: boolean; broodless?: boolean }) {
  return (
    <p className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm text-ink-2">
      <span>○ count with its 95 % interval</span>
      <span>■ at or over the act level</span>
      <span>◇ converted from a board</span>
      <span>dotted: act level</span>
      <span>blue: course</span>
      <span>blue slant: honey not clear</span>
      <span>foot: visits</span>
      {broodless && <span>bar above: no capped brood</span>}
      {forecast && <span>grey: forecast, half, 80 and 95 in 100 inside</span>}
    </p>
  );
}
