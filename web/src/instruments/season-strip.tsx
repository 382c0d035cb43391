/**
 * The season strip: one row a colony, days across, today between past and future. Counts with their 95 % bars on the
 * rate scale, the act level as a stepped line, courses as bars with their placings, withdrawal hatched, visits as
 * ticks. Without a count the row is hatched.
 */
import type { Level, Schemas } from "@/client/types";
import { daysBetween, dayNumber, monthName, shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import { PHASE } from "@/wording/words";
import { rateShare } from "./scale";

type Band = Schemas["PhaseBand"];
export type StripCount = Schemas["StripCount"];
export type DrawnCourse = Pick<
  Schemas["DrawnCourse"],
  "id" | "short_name" | "occupies_from" | "occupies_to" | "honey_clear_on" | "placings" | "state"
>;

export type Span = { first: string; last: string; today: string; width: number };

const TOP = 20;
const FALLS_TOP = 60;
/**
 * A count that has no place on the axis: a letter at the foot of its day. A board after a treatment lies under its
 * course.
 */
const LETTER: Record<StripCount["method"], string> = {
  wash: "?",
  sugar: "?",
  co2: "?",
  board: "b",
  board_after_treatment: "",
  drone_brood: "d",
  look: "l",
};
/** Across a longer gap nothing is known of the way between two counts, and no line is drawn. */
const LONGEST_LINE_DAYS = 60;
export const BAND_FILL: Record<Band["phase"], string> = {
  dormant: "var(--band-2)",
  build_up: "transparent",
  peak: "var(--band-1)",
  pre_winter: "var(--band-2)",
  decline: "transparent",
};

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

/** 10, 5 and 2 (of falls three times that), as many as keep clear of one another. */
function ticksThatFit(y: (value: number) => number, times: number): number[] {
  const room = (a: number, b: number) => y(a * times) - y(b * times) >= 13;
  return [10, 5, 2]
    .filter((tick) => tick === 10 || (tick === 2 ? room(2, 10) : room(5, 10) && room(2, 5)))
    .map((tick) => tick * times);
}

/** The bands of a forecast, 95, 80 and 50 % one in the other, with the middle as a broken line. */
export function Fan({
  days,
  x,
  y,
}: {
  days: Schemas["Band"][];
  x: (day: string) => number;
  y: (per100: number) => number;
}) {
  if (days.length < 2) return null;
  const edge = (low: keyof Schemas["Band"], high: keyof Schemas["Band"]) =>
    `M${days.map((band) => `${x(band.date)} ${y(Number(band[high]))}`).join("L")}L${[...days]
      .reverse()
      .map((band) => `${x(band.date)} ${y(Number(band[low]))}`)
      .join("L")}Z`;
  return (
    <g>
      <path d={edge("low95", "high95")} fill="var(--ink)" opacity="0.09" />
      <path d={edge("low80", "high80")} fill="var(--ink)" opacity="0.13" />
      <path d={edge("low50", "high50")} fill="var(--ink)" opacity="0.18" />
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

type Axes = { x: (day: string) => number; y: (value: number) => number; height: number; floor: number };

export function SeasonStrip({
  span,
  height,
  phases,
  counts,
  courses,
  visits,
  level,
  countedOn,
  label,
  scale = false,
  ahead = [],
  falls = false,
}: {
  span: Span;
  height: number;
  phases: Band[];
  counts: StripCount[];
  courses: DrawnCourse[];
  visits: string[];
  level: Level;
  countedOn: string | null;
  label: string;
  scale?: boolean;
  /** What the forecast says of the days to come: drawn from the last count on. */
  ahead?: Schemas["Band"][];
  /** Mites a day on a board, in place of mites per 100 bees. */
  falls?: boolean;
}) {
  const floor = height - 12;
  const y = (value: number) => floor - rateShare(value, falls ? FALLS_TOP : TOP) * (floor - 6);
  const x = (day: string) => xOf(span, day);
  const known = counts.filter((count) => count.median !== null);
  const axes: Axes = { x, y, height, floor };
  const staleFrom = level === "unknown" ? (countedOn ?? span.first) : null;
  const said = known.length
    ? known
        .slice(-4)
        .map(
          (count) =>
            `${shortDay(count.taken_on)} ${rate(count.median ?? 0)}${count.converted ? " converted from a board" : ""}`,
        )
        .join(", ")
    : "not counted in this span";
  return (
    <svg
      width={span.width}
      height={height}
      className="block"
      role="img"
      aria-label={`${label}: ${falls ? "mites a day" : "mites per 100 bees"}: ${said}`}>
      <defs>
        <pattern id="strip-hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V7" stroke="var(--line-2)" strokeWidth="1.4" />
        </pattern>
        <pattern id="strip-honey" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
          <path d="M0 0V5" stroke="var(--course)" strokeWidth="1.2" />
        </pattern>
      </defs>
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
      <Courses courses={courses} axes={axes} />
      <ActLine phases={phases} axes={axes} />
      {!falls && <Fan days={ahead.filter((band) => band.date <= span.last)} x={x} y={y} />}
      {scale &&
        ticksThatFit(y, falls ? 3 : 1).map((tick) => (
          <g key={tick}>
            <path d={`M0 ${y(tick)}h5`} stroke="var(--line-2)" />
            <text x="7" y={y(tick) + 4} fontSize="13" fill="var(--ink-3)">
              {tick}
            </text>
          </g>
        ))}
      <Counts counts={counts} phases={phases} axes={axes} />
      {visits.map((day) => (
        <path key={day} d={`M${x(day)} ${height}v-5`} stroke="var(--ink-3)" strokeWidth="1.2" />
      ))}
      <path d={`M${x(span.today)} 0V${height}`} stroke="var(--ink)" strokeWidth="1.5" />
    </svg>
  );
}

function PhaseBands({ phases, axes: { x, height } }: { phases: Band[]; axes: Axes }) {
  return (
    <>
      {phases.map((band) => (
        <rect
          key={band.first}
          x={x(band.first)}
          y="0"
          width={Math.max(0, x(band.last) - x(band.first) + 1)}
          height={height}
          fill={BAND_FILL[band.phase]}
          opacity="0.75"
        />
      ))}
    </>
  );
}

type CoursesProps = { courses: DrawnCourse[]; axes: Axes };

/** Courses as bars with their placings, and the days after them on which honey is not clear. */
function Courses({ courses, axes: { x, height } }: CoursesProps) {
  return (
    <>
      {courses.map((course) => {
        const from = x(course.occupies_from);
        const to = Math.max(x(course.occupies_to), from + 3);
        const clear = course.honey_clear_on === null ? to : x(course.honey_clear_on);
        return (
          <g key={course.id}>
            <rect x={from} y="2" width={to - from} height={height - 4} fill="var(--course)" opacity="0.16" />
            {clear > to && (
              <rect x={to} y="2" width={clear - to} height={height - 4} fill="url(#strip-honey)" opacity="0.5" />
            )}
            <path d={`M${from} ${height - 5}H${to}`} stroke="var(--course)" strokeWidth="4" />
            {course.placings.map((day) => (
              <path key={day} d={`M${x(day)} ${height - 11}v11`} stroke="var(--course)" strokeWidth="2.5" />
            ))}
            {to - from > 30 && height > 60 && (
              <text x={from + 3} y="14" fontSize="13" fontWeight="700" fill="var(--course)">
                {course.short_name}
              </text>
            )}
          </g>
        );
      })}
    </>
  );
}

/** The act level of each phase as a stepped line. */
function ActLine({ phases, axes: { x, y } }: { phases: Band[]; axes: Axes }) {
  return (
    <>
      {phases.map((band, index) => {
        const next = phases[index + 1];
        const end = next ? x(next.first) : x(band.last);
        return (
          <path
            key={band.first}
            d={`M${x(band.first)} ${y(band.act)}H${end}${next ? `V${y(next.act)}` : ""}`}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="1.4"
            strokeDasharray="2 3"
          />
        );
      })}
    </>
  );
}

/**
 * Counts with their bars; those over are squares, those converted from a board diamonds, those without a rate letters.
 */
function Counts({ counts, phases, axes: { x, y, floor } }: { counts: StripCount[]; phases: Band[]; axes: Axes }) {
  const known = counts.filter((count) => count.median !== null);
  const measured = known.filter((count) => !count.converted);
  return (
    <>
      {measured.length > 1 && (
        <path
          d={measured
            .map((count, index) => {
              const before = measured[index - 1];
              const follows = before && daysBetween(before.taken_on, count.taken_on) <= LONGEST_LINE_DAYS;
              return `${follows ? "L" : "M"}${x(count.taken_on)} ${y(count.median ?? 0)}`;
            })
            .join("")}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.3"
        />
      )}
      {known.map((count) => {
        const band = phases.find((phase) => phase.first <= count.taken_on && count.taken_on <= phase.last);
        const over = (count.median ?? 0) >= (band?.act ?? Infinity);
        const urgent = (count.median ?? 0) >= (band?.urgent ?? Infinity);
        const cx = x(count.taken_on);
        return (
          <g key={count.id}>
            <path
              d={`M${cx} ${y(count.high ?? 0)}V${y(count.low ?? 0)}`}
              stroke="var(--ink-2)"
              strokeWidth="1.3"
              strokeDasharray={count.converted ? "2 3" : undefined}
            />
            {count.converted ? (
              <path
                d={`M${cx} ${y(count.median ?? 0) - 5}l5 5l-5 5l-5 -5z`}
                fill="none"
                stroke="var(--ink-2)"
                strokeWidth="1.4"
                strokeDasharray="2 1.5">
                <title>converted from board fall</title>
              </path>
            ) : over ? (
              <rect
                x={cx - 4.2}
                y={y(count.median ?? 0) - 4.2}
                width="8.4"
                height="8.4"
                fill={urgent ? "var(--act)" : "var(--ink)"}
              />
            ) : (
              <circle
                cx={cx}
                cy={y(count.median ?? 0)}
                r="4.2"
                fill="var(--sheet)"
                stroke="var(--ink)"
                strokeWidth="1.8"
              />
            )}
          </g>
        );
      })}
      {counts
        .filter((count) => count.median === null)
        .map((count) => (
          <text key={count.id} x={x(count.taken_on) - 4} y={floor} fontSize="14" fill="var(--ink-3)">
            {LETTER[count.method]}
          </text>
        ))}
    </>
  );
}
