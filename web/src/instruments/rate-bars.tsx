/** How colonies lie along the rate: those without a mite apart, then bars. */
import type { Schemas } from "@/client/types";

export function RateBars({ bars, width }: { bars: Schemas["WeekBar"][]; width: number }) {
  const high = 130;
  const foot = 40;
  const most = Math.max(1, ...bars.map((bar) => bar.colonies));
  const wide = width / (bars.length + 0.5);
  const name = (bar: Schemas["WeekBar"]) =>
    bar.low === null ? "none" : bar.high === null ? `${bar.low}+` : `${bar.low}–${bar.high}`;
  return (
    <svg
      width={width}
      height={high + foot + 18}
      className="block"
      role="img"
      aria-label={`Colonies by mites per 100 bees: ${bars.map((bar) => `${name(bar)} ${bar.colonies}`).join(", ")}`}>
      {bars.map((bar, index) => {
        const x = index * wide + (bar.low === null ? 0 : wide * 0.5);
        const tall = (bar.colonies / most) * high;
        return (
          <g key={name(bar)}>
            <rect
              x={x}
              y={18 + high - tall}
              width={wide * 0.84}
              height={tall}
              fill={bar.low === null ? "var(--line-2)" : "var(--ink)"}
            />
            <text
              x={x + wide * 0.42}
              y={12 + high - tall}
              textAnchor="middle"
              fontSize="14"
              fontWeight="700"
              fill="var(--ink)">
              {bar.colonies}
            </text>
            <text x={x + wide * 0.42} y={high + 36} textAnchor="middle" fontSize="13" fill="var(--ink-2)">
              {name(bar)}
            </text>
          </g>
        );
      })}
      <path d={`M0 ${18 + high}H${width}`} stroke="var(--ink)" />
      <text x={width} y={high + foot + 16} textAnchor="end" fontSize="13" fill="var(--ink-2)">
        mites per 100 bees
      </text>
    </svg>
  );
}
