/** What is drawn on a season strip: phases, courses, the act level, counts, and a figure made of two counts. */
import type { Schemas } from "@/client/types";
import { daysBetween } from "@/ui/dates";
import { rate } from "@/ui/units";
import type { Broodless, DrawnCourse, Span, StripCount } from "./season-strip";

type Band = Schemas["PhaseBand"];
/** Where a day and a figure lie on a strip, in pixels; `floor` is nought. */
export type Axes = { x: (day: string) => number; y: (value: number) => number; height: number; floor: number };

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

export function PhaseBands({ phases, axes: { x, height } }: { phases: Band[]; axes: Axes }) {
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
export function Courses({ courses, axes: { x, height } }: CoursesProps) {
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
export function ActLine({ phases, axes: { x, y } }: { phases: Band[]; axes: Axes }) {
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
export function Counts({
  counts,
  phases,
  axes: { x, y, floor },
}: {
  counts: StripCount[];
  phases: Band[];
  axes: Axes;
}) {
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

/** A figure that is made of two counts: where it stands, larger than what it is made of, and said. */
export type Pooled = { on: string; median: number; low: number; high: number; over: boolean; urgent: boolean };

export function PooledMark({ pooled, axes: { x, y } }: { pooled: Pooled; axes: Axes }) {
  const cx = x(pooled.on);
  const cy = y(pooled.median);
  const fill = pooled.urgent ? "var(--act)" : pooled.over ? "var(--ink)" : "var(--sheet)";
  return (
    <g>
      <path d={`M${cx} ${y(pooled.high)}V${y(pooled.low)}`} stroke="var(--ink)" strokeWidth="2.500" />
      <rect x={cx - 7} y={cy - 7} width="14" height="14" fill={fill} stroke="var(--ink)" strokeWidth="1.500" />
      <text x={cx - 12} y={cy + 5} textAnchor="end" fontSize="14" fontWeight="700" fill="var(--ink)">
        {rate(pooled.median)} from both
      </text>
    </g>
  );
}

/** The last sensible start of a treatment. */
export function BeginBy({ day, name, axes: { x, floor } }: { day: string; name: string; axes: Axes }) {
  const at = x(day);
  return (
    <g>
      <path d={`M${at} 4V${floor}`} stroke="var(--course)" strokeWidth="2" strokeDasharray="2 3" />
      <text x={at + 5} y="30" fontSize="14" fontWeight="700" fill="var(--course)">
        {name}
      </text>
    </g>
  );
}

type BroodlessProps = { days: Broodless; span: Span; axes: Axes };

/** The days on which no brood is capped, as a bar along the top: whole while it is certain, broken after that. */
export function BroodlessDays({ days, span, axes: { x } }: BroodlessProps) {
  if (days.to < span.first || days.from > span.last) return null;
  const [from, sure, to] = [x(days.from), x(days.sureTo), x(days.to)];
  const text = "no capped brood";
  const at = Math.min(from, span.width - text.length * 7.2);
  return (
    <g>
      <path d={`M${from} 4V12M${from} 8H${Math.max(sure, from + 2)}`} stroke="var(--ink)" strokeWidth="4" fill="none" />
      {to > sure && <path d={`M${sure} 8H${to}`} stroke="var(--ink)" strokeWidth="4" strokeDasharray="3 3" />}
      <text
        x={at}
        y="26"
        fontSize="13"
        fontWeight="700"
        fill="var(--ink)"
        stroke="var(--paper)"
        strokeWidth="3"
        paintOrder="stroke">
        {text}
      </text>
    </g>
  );
}
