/**
 * How colonies lie along the rate rule: each colony a square in the pile of its span, as wide as the span is on the
 * rule, so that equal areas are equal numbers; those without a mite apart, hollow.
 */
import type { Schemas } from "@/client/types";
import { RATE_TOP, rateShare } from "./scale";

type Pile = Schemas["WeekBar"];

const HIGH = 128;
const NONE_WIDE = 46;
const SIZES = [12, 11, 10, 9, 8, 7, 6, 5, 4, 3];

/** How wide and high a pile of so many squares is. */
const rowsOf = (colonies: number, wide: number, size: number) =>
  Math.ceil(colonies / Math.max(1, Math.floor(wide / size)));

/** The largest size of a square at which every pile has room; null where only areas do. */
export function squareSize(piles: { colonies: number; wide: number }[], high = HIGH): number | null {
  return SIZES.find((size) => piles.every((pile) => rowsOf(pile.colonies, pile.wide, size) * size <= high)) ?? null;
}

export function RatePiles({ bars, width }: { bars: Pile[]; width: number }) {
  const rule = width - NONE_WIDE - 24;
  const at = (rate: number) => NONE_WIDE + 12 + rateShare(rate) * rule;
  const placed = bars.map((pile) => {
    const from = pile.low === null ? 0 : at(pile.low);
    const to = pile.low === null ? NONE_WIDE : at(pile.high ?? RATE_TOP);
    return { pile, from: from + 1, wide: to - from - 2, colonies: pile.colonies };
  });
  const size = squareSize(placed);
  const most = Math.max(1e-9, ...placed.map((one) => one.colonies / one.wide));
  const tallOf = (colonies: number, wide: number) =>
    size === null ? (colonies / wide / most) * HIGH : rowsOf(colonies, wide, size) * size;
  const floor = Math.max(...placed.map((one) => tallOf(one.colonies, one.wide))) + 20;
  const ticks = bars.flatMap((pile) => (pile.low === null ? [] : [pile.low]));
  return (
    <svg
      width={width}
      height={floor + 42}
      className="block"
      role="img"
      aria-label={`Colonies by mites per 100 bees: ${bars.map((pile) => `${name(pile)} ${pile.colonies}`).join(", ")}`}>
      {placed.map(({ pile, from, wide, colonies }) => {
        const fill = pile.low === null ? "none" : "var(--ink)";
        const columns = size === null ? 1 : Math.max(1, Math.floor(wide / size));
        const tall = tallOf(colonies, wide);
        return (
          <g key={name(pile)}>
            {size === null ? (
              <rect x={from} y={floor - tall} width={wide} height={tall} fill={fill} stroke="var(--ink)" />
            ) : (
              Array.from({ length: colonies }, (_, number) => (
                <rect
                  key={number}
                  x={from + (number % columns) * size + 0.75}
                  y={floor - (Math.floor(number / columns) + 1) * size + 0.75}
                  width={size - 1.5}
                  height={size - 1.5}
                  fill={fill}
                  stroke={pile.low === null ? "var(--ink-2)" : "none"}
                />
              ))
            )}
            {colonies > 0 && (
              <text x={from} y={floor - tall - 5} fontSize="14" fontWeight="700" fill="var(--ink)">
                {colonies}
              </text>
            )}
          </g>
        );
      })}
      <path d={`M0 ${floor}H${NONE_WIDE}M${at(0)} ${floor}H${at(RATE_TOP)}`} stroke="var(--ink)" />
      <text x="0" y={floor + 18} fontSize="13" fill="var(--ink-2)">
        none
      </text>
      {[...ticks, RATE_TOP].map((tick) => (
        <g key={tick}>
          <path d={`M${at(tick)} ${floor}v6`} stroke="var(--ink)" />
          <text x={at(tick)} y={floor + 20} textAnchor="middle" fontSize="13" fill="var(--ink-2)">
            {tick === RATE_TOP ? `${tick}+` : tick}
          </text>
        </g>
      ))}
      <text x={width} y={floor + 38} textAnchor="end" fontSize="13" fill="var(--ink-2)">
        mites per 100 bees, a square a colony
      </text>
    </svg>
  );
}

function name({ low, high }: Pile): string {
  if (low === null) return "none";
  return high === null ? `${low} or more` : `${low} to ${high}`;
}
