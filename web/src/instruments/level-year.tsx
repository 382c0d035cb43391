/**
 * The year of a policy: the levels at which a colony is watched, treated, treated at once, stepped through the phases
 * of the place from today on, in the unit of the school.
 */
import type { Schemas } from "@/client/types";
import { addDays, monthName, shortDay } from "@/ui/dates";
import { PHASE } from "@/wording/words";
import { xOf, type Span } from "./season-strip";
import { BAND_FILL } from "./strip-marks";

type Band = Schemas["PhaseBand"];
const LINES = [
  ["urgent", "var(--act)", "2"],
  ["act", "var(--ink)", "3.5"],
  ["watch", "var(--watch)", "2"],
] as const;
const HEIGHT = 170;
const LEFT = 34;
const FOOT = 46;

export function LevelYear({
  phases,
  first,
  last,
  width,
  lit = null,
}: {
  phases: Band[];
  first: string;
  last: string;
  width: number;
  /** The phase that is being edited: it stands out. */
  lit?: Band["phase"] | null;
}) {
  const top = Math.max(0.5, ...phases.map((band) => band.urgent)) * 1.15;
  const span: Span = { first, last: addDays(last, 1), today: first, width: width - LEFT - 62 };
  const x = (day: string) => LEFT + xOf(span, day);
  const y = (level: number) => HEIGHT - (level / top) * HEIGHT;
  const step = [1, 2, 5, 10, 20, 50, 100, 200].find((one) => top / one <= 8) ?? 500;
  const ticks = Array.from({ length: Math.floor(top / step) + 1 }, (_, number) => number * step);
  const end = phases[phases.length - 1];
  const named = (band: Band) => x(band.last) - x(band.first) > PHASE[band.phase].length * 7.4;
  const narrow = phases.filter((band) => !named(band));
  return (
    <figure>
      <svg
        width={width}
        height={HEIGHT + FOOT}
        className="block"
        role="img"
        aria-label={`Levels through the year: ${phases.map(sayBand).join("; ")}`}>
        {phases.map((band) => (
          <g key={band.first}>
            <rect
              x={x(band.first)}
              y="0"
              width={Math.max(0, x(addDays(band.last, 1)) - x(band.first))}
              height={HEIGHT}
              fill={BAND_FILL[band.phase]}
            />
            {band.phase === lit && (
              <rect
                x={x(band.first)}
                y="1"
                width={Math.max(0, x(addDays(band.last, 1)) - x(band.first))}
                height={HEIGHT - 2}
                fill="var(--course-wash)"
                stroke="var(--course)"
                strokeWidth="2"
              />
            )}
            {named(band) && (
              <text
                x={x(band.first) + 5}
                y={HEIGHT + 38}
                fontSize="14"
                fontWeight={band.phase === lit ? 700 : 400}
                fill="var(--ink-2)">
                {PHASE[band.phase]}
              </text>
            )}
            <path d={`M${x(band.first)} ${HEIGHT + 22}v${FOOT - 26}`} stroke="var(--line-2)" />
          </g>
        ))}
        {ticks.map((tick) => (
          <g key={tick}>
            <path d={`M${LEFT} ${y(tick)}H${LEFT + span.width}`} stroke="var(--line)" />
            <text x={LEFT - 7} y={y(tick) + 5} textAnchor="end" fontSize="14" fill="var(--ink-2)">
              {tick}
            </text>
          </g>
        ))}
        {LINES.map(([level, colour, thick]) => (
          <path
            key={level}
            fill="none"
            stroke={colour}
            strokeWidth={thick}
            strokeDasharray={level === "watch" ? "2 4" : undefined}
            d={phases
              .map((band, index) => {
                const height = y(band[level]);
                return `${index === 0 ? "M" : "L"}${x(band.first)} ${height}L${x(addDays(band.last, 1))} ${height}`;
              })
              .join("")}
          />
        ))}
        {end &&
          namesAt(LINES.map(([level]) => y(end[level]) + 5)).map(({ line: [level, colour], at }) => (
            <text
              key={level}
              x={LEFT + span.width + 6}
              y={at}
              fontSize="14"
              fontWeight={level === "act" ? 700 : 400}
              fill={colour}>
              {level}
            </text>
          ))}
        {months(first, last).map((month) => (
          <text key={month} x={x(month) + 3} y={HEIGHT + 17} fontSize="14" fill="var(--ink-2)">
            {monthName(month).slice(0, 3)}
          </text>
        ))}
      </svg>
      {narrow.length > 0 && (
        <figcaption className="text-sm text-ink-2">
          Too narrow to be named: {narrow.map((band) => `${PHASE[band.phase]} from ${shortDay(band.first)}`).join(", ")}
          .
        </figcaption>
      )}
    </figure>
  );
}

/** Where the names of the lines stand at their ends, from the top down, none on another. */
function namesAt(heights: number[]) {
  let free = -Infinity;
  return LINES.map((line, index) => {
    const at = Math.max(heights[index] ?? 0, free);
    free = at + 15;
    return { line, at };
  });
}

function months(first: string, last: string): string[] {
  const found: string[] = [];
  for (let day = first; day < last; day = addDays(day, 1)) if (day.endsWith("-01")) found.push(day);
  return found.filter((month) => addDays(month, 25) <= last);
}

/** "peak from 15 May: act at 2" */
export function sayBand(band: Band): string {
  return `${PHASE[band.phase]} from ${shortDay(band.first)}: act at ${band.act}`;
}
