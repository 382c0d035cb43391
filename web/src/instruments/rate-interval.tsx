/** A figure with its 95 % interval on the rate rule, small, in a row; its figures stand in the column before. */
import { RATE_TICKS, RATE_TOP, rateShare } from "./scale";

const percent = (value: number) => `${(100 * rateShare(value)).toFixed(2)}%`;

export function RateInterval({ median, low, high }: { median: number; low: number; high: number }) {
  return (
    <span aria-hidden="true" className="relative block h-6 border-b border-line-2">
      {RATE_TICKS.map((tick) => (
        <span key={tick} className="absolute bottom-0 h-1.5 w-px bg-line-2" style={{ left: percent(tick) }} />
      ))}
      <span
        className="absolute top-2 h-1.5 bg-ink-3"
        style={{ left: percent(low), right: `calc(100% - ${percent(high)})` }}
      />
      <span className="absolute top-0.5 h-5 w-1.5 -translate-x-1/2 bg-ink" style={{ left: percent(median) }} />
    </span>
  );
}

/** The figures over a column of such rows. */
export function RateIntervalHead() {
  return (
    <span aria-hidden="true" className="relative block h-5 text-xs font-normal text-ink-2">
      {RATE_TICKS.map((tick) => (
        <span
          key={tick}
          className={tick === RATE_TOP ? "absolute right-0" : "absolute -translate-x-1/2 first:translate-x-0"}
          style={tick === RATE_TOP ? {} : { left: percent(tick) }}>
          {tick}
        </span>
      ))}
    </span>
  );
}
