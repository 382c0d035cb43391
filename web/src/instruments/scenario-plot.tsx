/**
 * Scenarios of one colony in one picture: what was counted, the bands of the scenario chosen, the middle of the others,
 * the level at which to act, and under it each scenario as a bar that is moved in time, by hand or by keys.
 */
import { clsx } from "clsx";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { addDays, dayNumber, longDay, shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import { Fan, StripHead, xOf, type Span } from "./season-strip";
import { rateShare } from "./scale";

const TOP = 30;
const DASHES = ["6 3", "2 3", "10 3 2 3", "1 4", "12 4", "4 2 1 2", "8 2"];
export const LETTERS = ["A", "B", "C", "D", "E", "F", "G"];

/** Heights of the letters at the ends of the lines, moved so that none stands on another. */
function apart(heights: number[], lowest: number): number[] {
  const moved = [...heights];
  let free = lowest;
  for (const index of heights.map((_, at) => at).sort((a, b) => (heights[b] ?? 0) - (heights[a] ?? 0))) {
    moved[index] = Math.min(heights[index] ?? 0, free);
    free = (moved[index] ?? 0) - 19;
  }
  return moved;
}

export function ScenarioPlot({
  span,
  height,
  view,
  chosen,
  phases,
}: {
  span: Span;
  height: number;
  view: Schemas["ForecastView"];
  chosen: number;
  phases: Schemas["PhaseBand"][];
}) {
  const floor = height - 8;
  const y = (per100: number) => floor - rateShare(per100, TOP) * (floor - 8);
  const x = (day: string) => xOf(span, day);
  const shown = view.views[chosen]?.days.filter((band) => band.date <= span.last) ?? [];
  const marks = apart(
    view.views.map((scenario) => y(scenario.days.filter((band) => band.date <= span.last).at(-1)?.median ?? 0)),
    floor - 9,
  );
  const said = view.views
    .map(
      (scenario, index) =>
        `${LETTERS[index]}, ${scenario.name}: ` +
        `${scenario.outcome.at.map((day) => `${rate(day.median)} on ${shortDay(day.on)}`).join(", ")}`,
    )
    .join("; ");
  return (
    <div>
      <StripHead span={span} phases={phases} />
      <svg
        width={span.width}
        height={height}
        className="block bg-sheet"
        role="img"
        aria-label={`Mites per 100 bees. ${said}`}>
        {[1, 2, 5, 10, 20].map((tick) => (
          <g key={tick}>
            <path d={`M0 ${y(tick)}H${span.width}`} stroke="var(--line)" />
            <text x="4" y={y(tick) - 3} fontSize="13" fill="var(--ink-2)">
              {tick === 20 ? `${tick} mites per 100 bees` : tick}
            </text>
          </g>
        ))}
        <path
          d={`M0 ${y(view.act_per_100)}H${span.width}`}
          stroke="var(--ink)"
          strokeWidth="1.5"
          strokeDasharray="2 3"
        />
        <text x="26" y={y(view.act_per_100) - 4} fontSize="13" fontWeight="700" fill="var(--ink)">
          act at {view.act_per_100}
        </text>
        <Fan days={shown} x={x} y={y} />
        {view.views.map((scenario, index) => {
          const days = scenario.days.filter((band) => band.date <= span.last);
          const end = days[days.length - 1];
          if (!end) return null;
          return (
            <g key={index}>
              {index !== chosen && (
                <path
                  d={`M${days.map((band) => `${x(band.date)} ${y(band.median)}`).join("L")}`}
                  fill="none"
                  stroke="var(--course)"
                  strokeWidth="1.8"
                  strokeDasharray={DASHES[index]}
                />
              )}
              <rect
                x={x(end.date) - 18}
                y={(marks[index] ?? 0) - 9}
                width="18"
                height="18"
                fill={index === chosen ? "var(--ink)" : "var(--sheet)"}
                stroke="var(--ink)"
              />
              <text
                x={x(end.date) - 9}
                y={(marks[index] ?? 0) + 5}
                textAnchor="middle"
                fontSize="13"
                fontWeight="700"
                fill={index === chosen ? "var(--sheet)" : "var(--ink)"}>
                {LETTERS[index]}
              </text>
            </g>
          );
        })}
        {view.counts
          .filter((count) => count.taken_on >= span.first)
          .map((count) => (
            <g key={count.id}>
              <path
                d={`M${x(count.taken_on)} ${y(count.high)}V${y(count.low)}`}
                stroke="var(--ink)"
                strokeWidth="1.4"
                strokeDasharray={count.converted ? "2 3" : undefined}
              />
              {count.converted ? (
                <path
                  d={`M${x(count.taken_on)} ${y(count.median) - 6}l6 6l-6 6l-6 -6z`}
                  fill="var(--sheet)"
                  stroke="var(--ink)"
                  strokeWidth="1.5"
                  strokeDasharray="2 1.5">
                  <title>converted from board fall</title>
                </path>
              ) : (
                <circle
                  cx={x(count.taken_on)}
                  cy={y(count.median)}
                  r="5"
                  fill="var(--sheet)"
                  stroke="var(--ink)"
                  strokeWidth="2"
                />
              )}
            </g>
          ))}
        <path d={`M${x(span.today)} 0V${height}`} stroke="var(--ink)" strokeWidth="1.5" />
      </svg>
    </div>
  );
}

const LABEL_WIDTH = 80;

/** A bar on the picture's own time axis: drag it, or move it by the arrow keys, a week with Page Up and Page Down. */
export function MovingBar({
  span,
  start,
  days,
  most,
  letter,
  label,
  onMove,
}: {
  span: Span;
  start: string;
  days: number;
  most: number;
  letter: string;
  label: string;
  onMove: (start: string) => void;
}) {
  const [held, setHeld] = useState<{ x: number; from: number; now: number } | null>(null);
  const ahead = dayNumber(start) - dayNumber(span.today);
  const now = held?.now ?? ahead;
  const day = addDays(span.today, now);
  const perDay = span.width / (dayNumber(span.last) - dayNumber(span.first));
  const long = Math.max(6, Math.min(days * perDay, span.width - xOf(span, day)));
  const within = (wanted: number) => Math.min(most, Math.max(0, wanted));
  const move = (wanted: number) => {
    if (within(wanted) !== ahead) onMove(addDays(span.today, within(wanted)));
  };
  return (
    <div className="relative h-14 border-b border-line bg-paper desk:h-9" style={{ width: span.width }}>
      <span className="absolute inset-y-0 border-l border-ink" style={{ left: xOf(span, span.today) }} />
      <div
        role="slider"
        tabIndex={0}
        aria-label={`Start of ${label}`}
        aria-valuemin={0}
        aria-valuemax={most}
        aria-valuenow={now}
        aria-valuetext={longDay(day)}
        data-keys="through"
        className="absolute inset-y-1 flex min-w-14 cursor-ew-resize touch-none items-center text-sm"
        style={{ left: xOf(span, day) }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld({ x: event.clientX, from: ahead, now: ahead });
        }}
        onPointerMove={(event) =>
          held && setHeld({ ...held, now: within(held.from + Math.round((event.clientX - held.x) / perDay)) })
        }
        onPointerUp={() => {
          if (held) move(held.now);
          setHeld(null);
        }}
        onPointerCancel={() => setHeld(null)}
        onKeyDown={(event) => {
          const by = { ArrowLeft: -1, ArrowRight: 1, ArrowDown: -1, ArrowUp: 1, PageDown: -7, PageUp: 7 }[event.key];
          if (by !== undefined) {
            event.preventDefault();
            move(ahead + by);
          }
        }}>
        <span className="h-full border-2 border-course bg-sheet" style={{ width: long }} />
        <span className={clsx("whitespace-nowrap px-1.5", !(long < LABEL_WIDTH) && "absolute left-1")}>
          <strong>{letter}</strong> {shortDay(day)}
        </span>
      </div>
    </div>
  );
}
