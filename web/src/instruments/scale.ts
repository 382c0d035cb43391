/** The scale of infestation, the same everywhere: room for 0 to 5, still reaching 30 (square root). */
export const RATE_TOP = 30;
export const RATE_TICKS: readonly number[] = [0, 1, 2, 5, 10, 20, 30];

/** The scale of the daily fall: the same drawing, reaching three times as far. */
export const FALL_TOP = 90;
export const FALL_TICKS: readonly number[] = [0, 3, 10, 20, 40, 60, 90];

/** Share of the ruler's length, 0 to 1, for mites per 100 bees; beyond the top it stays at the end. */
export function rateShare(per100: number, top = RATE_TOP): number {
  return Math.sqrt(Math.min(Math.max(per100, 0), top) / top);
}
