/** A chance as it is read: never "0 %" or "100 %", which nobody can know. */
export function percent(share: number): string {
  if (share < 0.01) return "under 1 %";
  return share > 0.99 ? "over 99 %" : `${Math.round(100 * share)} %`;
}

/** A small chance as one in so many. */
export const oneIn = (share: number): string => (share <= 0 ? "none" : `1 in ${grouped(rounded(1 / share))}`);

/** Two figures are enough of what is estimated. */
export function rounded(value: number): number {
  const step = 10 ** Math.max(0, Math.floor(Math.log10(value)) - 1);
  return Math.round(value / step) * step;
}

/** A large whole number in groups of three. */
export const grouped = (value: number): string => String(value).replace(/\B(?=(\d{3})+$)/g, " ");
