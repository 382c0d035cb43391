/** The scale of infestation, the same everywhere: room for 0 to 5, still reaching 30 (square root). */
export const RATE_TOP = 30;
export const RATE_TICKS = [0, 1, 2, 5, 10, 20, 30] as const;

/** Share of the ruler's length, 0 to 1, for mites per 100 bees; beyond the top it stays at the end. */
export function rateShare(per100: number, top = RATE_TOP): number {
  return Math.sqrt(Math.min(Math.max(per100, 0), top) / top);
}
