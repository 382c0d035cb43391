/**
 * The rate rule: mites per 100 bees, or a board's mites a day, on one drawn ruler. The threshold in force is a notch,
 * the estimate a mark, its 95 % interval a bar. Unknown is hatched, never empty and never green.
 */
import { clsx } from "clsx";
import { rate } from "@/ui/units";
import { FALL_TICKS, FALL_TOP, RATE_TICKS, RATE_TOP, rateShare } from "./scale";

export type RuleReading = { median: number; low: number; high: number };
export type RuleLevels = { watch: number; act: number; urgent: number };

export function RateRule({
  levels,
  reading,
  label,
  falls = false,
}: {
  levels: RuleLevels;
  reading: RuleReading | null;
  label?: string;
  falls?: boolean;
}) {
  const top = falls ? FALL_TOP : RATE_TOP;
  const unit = falls ? "mites a day" : "mites per 100 bees";
  const percent = (value: number) => `${(100 * rateShare(value, top)).toFixed(2)}%`;
  const said = reading
    ? `${rate(reading.median)} ${unit}, between ${rate(reading.low)} and ${rate(reading.high)}`
    : "not known";
  const at = `watch from ${levels.watch}, act at ${levels.act}, urgent from ${levels.urgent} ${unit}`;
  const beyond = reading !== null && reading.high > top;
  return (
    <div role="img" aria-label={`${label ? `${label}: ` : ""}${said}; ${at}`} className="select-none">
      <div className="relative h-6">
        <span
          className="absolute bottom-0 flex items-end text-sm text-ink-2"
          style={{ right: `calc(100% - ${percent(levels.watch)})` }}>
          <span className="whitespace-nowrap leading-5">watch {levels.watch}</span>
          <span className="ml-1 block h-5 w-px bg-ink" />
        </span>
        <span className="absolute bottom-0 flex items-end text-sm font-bold" style={{ left: percent(levels.act) }}>
          <span className="mr-1.5 block h-5 w-0.5 bg-ink" />
          <span className="whitespace-nowrap leading-5">act at {levels.act}</span>
        </span>
        {/* Close to the act level its name gives way to that one; the dashes say whose it is. */}
        <span
          className="absolute bottom-0 flex items-end text-sm text-ink-2"
          style={{ left: `max(${percent(levels.urgent)}, calc(${percent(levels.act)} + 5.2rem))` }}>
          <span className="mr-1.5 block h-4 border-l border-dashed border-act" />
          <span className="whitespace-nowrap leading-5">urgent {levels.urgent}</span>
        </span>
      </div>
      <div className="relative h-9 border-y border-line-2">
        {reading === null ? (
          <div className="hatch absolute inset-0" />
        ) : (
          <>
            <div className="absolute inset-y-0 left-0 bg-clear-wash" style={{ width: percent(levels.watch) }} />
            <div
              className="absolute inset-y-0 bg-watch-wash"
              style={{ left: percent(levels.watch), right: `calc(100% - ${percent(levels.act)})` }}
            />
            <div
              className="absolute inset-y-0 bg-line"
              style={{ left: percent(levels.act), right: `calc(100% - ${percent(levels.urgent)})` }}
            />
            <div className="absolute inset-y-0 right-0 bg-act-wash" style={{ left: percent(levels.urgent) }} />
          </>
        )}
        <div className="absolute inset-y-0 w-0.5 bg-ink" style={{ left: percent(levels.act) }} />
        <div
          className="absolute inset-y-2 w-px border-l border-dashed border-act"
          style={{ left: percent(levels.urgent) }}
        />
        {reading !== null && (
          <>
            <div
              className="absolute top-1/2 h-1.5 -translate-y-1/2 bg-ink"
              style={{ left: percent(reading.low), right: `calc(100% - ${percent(reading.high)})` }}
            />
            <div className="absolute top-1.5 bottom-1.5 w-0.5 bg-ink" style={{ left: percent(reading.low) }} />
            {reading.median > top && (
              <span className="absolute inset-y-0 right-4 flex items-center bg-sheet px-1 text-sm font-bold">
                over {top}
              </span>
            )}
            {!beyond && (
              <div
                className="absolute top-1.5 bottom-1.5 -ml-0.5 w-0.5 bg-ink"
                style={{ left: percent(reading.high) }}
              />
            )}
            <div
              className="absolute top-1/2 h-7 w-3 -translate-x-1/2 -translate-y-1/2 border-[3px] border-ink bg-sheet"
              style={{ left: percent(reading.median) }}
            />
          </>
        )}
      </div>
      <div className="relative h-6 text-sm text-ink-2" aria-hidden="true">
        {(falls ? FALL_TICKS : RATE_TICKS).map((tick) => (
          <span
            key={tick}
            className={clsx(
              "absolute top-0 border-l border-line-2 pt-1.5 leading-5",
              tick === top ? "-translate-x-full border-l-0 border-r pr-1" : "pl-1",
            )}
            style={{ left: percent(tick) }}>
            {tick}
          </span>
        ))}
      </div>
    </div>
  );
}
