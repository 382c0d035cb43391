/**
 * The days ahead of many colonies on one axis: above, on which days they go over their level; below, a row each, its
 * middle and 80 % band under the rate scale, its act level dotted.
 */
import type { Schemas } from "@/client/types";
import { addDays, dayNumber, daysBetween, monthName, shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import { rateShare } from "./scale";

export type Ahead = { today: string; last: string; width: number };

const TOP = 20;
const HIGH = 44;
const PILE_HIGH = 34;
const LEGEND_HIGH = 20;
const MOST_BLOCK = 6;

const xOf = ({ today, last, width }: Ahead, day: string) =>
  Math.min(Math.max(daysBetween(today, day) / Math.max(1, daysBetween(today, last)), 0), 1) * (width - 8) + 4;

const piled = (one: Schemas["Crossings"]) => `${shortDay(one.on_day)} ${one.colonies}`;

/** Months ahead, and a pile of colonies on each day on which some go over. */
export function OutlookHead({ ahead, crossings }: { ahead: Ahead; crossings: Schemas["Crossings"][] }) {
  const most = Math.max(1, ...crossings.map((one) => one.colonies));
  const block = Math.min(MOST_BLOCK, PILE_HIGH / most);
  const gap = block > 3 ? 1 : 0;
  const days = Array.from({ length: daysBetween(ahead.today, ahead.last) + 1 }, (_, at) => addDays(ahead.today, at));
  const wide = Math.max(2, ahead.width / days.length - 2);
  const base = PILE_HIGH + 2;
  return (
    <svg
      width={ahead.width}
      height={base + LEGEND_HIGH}
      className="block"
      role="img"
      aria-label={
        crossings.length === 0
          ? "No colony goes over in these days"
          : `Colonies that go over, by day: ${crossings.map(piled).join(", ")}`
      }>
      <path d={`M0 ${base}H${ahead.width}`} stroke="var(--line-2)" />
      {crossings.map((one) =>
        Array.from({ length: gap > 0 ? one.colonies : 1 }, (_, at) => {
          const tall = gap > 0 ? block - gap : block * one.colonies;
          return (
            <rect
              key={`${one.on_day}-${at}`}
              x={xOf(ahead, one.on_day) - wide / 2}
              y={base - 1 - tall - at * block}
              width={wide}
              height={tall}
              fill="var(--ink)"
            />
          );
        }),
      )}
      {days
        .filter((day, at) => at === 0 || day.endsWith("-01"))
        .map((day, at, shown) => {
          const x = at === 0 ? 0 : xOf(ahead, day);
          const next = shown[at + 1];
          const room = (next ? xOf(ahead, next) : ahead.width) - x;
          return (
            <g key={day}>
              <path d={`M${at === 0 ? 4 : x} ${base}v5`} stroke="var(--line-2)" />
              {room > 44 && (
                <text x={at === 0 ? 0 : x + 4} y={base + 16} fontSize="14" fill="var(--ink-2)">
                  {at === 0 ? shortDay(day) : room > 84 ? monthName(day) : monthName(day).slice(0, 3)}
                </text>
              )}
            </g>
          );
        })}
    </svg>
  );
}

/** What is forecast of one colony, on the same axis. */
export function OutlookFan({ ahead, of, label }: { ahead: Ahead; of: Schemas["ColonyOutlook"]; label: string }) {
  const y = (value: number) => HIGH - 2 - rateShare(value, TOP) * (HIGH - 4);
  const shown = of.days.flatMap((day, at) => (dayNumber(day) <= dayNumber(ahead.last) ? [{ day, at }] : []));
  const line = (values: number[]) => shown.map(({ day, at }) => `${xOf(ahead, day)} ${y(values[at] ?? 0)}`);
  return (
    <svg
      width={ahead.width}
      height={HIGH}
      className="block"
      role="img"
      aria-label={
        `${label}: from ${rate(of.median[0] ?? 0)} to ${rate(of.median.at(-1) ?? 0)} mites per 100 bees by ` +
        `${shortDay(of.days.at(-1) ?? ahead.last)}, 80 % between ` +
        `${rate(of.low80.at(-1) ?? 0)} and ${rate(of.high80.at(-1) ?? 0)}`
      }>
      <path
        d={`M${line(of.high80).join("L")}L${line(of.low80).reverse().join("L")}Z`}
        fill="var(--ink)"
        opacity="0.16"
      />
      <path d={`M0 ${y(of.act_per_100)}H${ahead.width}`} stroke="var(--ink)" strokeWidth="1.2" strokeDasharray="2 3" />
      <path d={`M${line(of.median).join("L")}`} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
    </svg>
  );
}
