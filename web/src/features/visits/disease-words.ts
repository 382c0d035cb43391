/** Chances and counts of disease as they are read: never "0 %" or "100 %", which nobody can know. */
export function percent(share: number): string {
  if (share < 0.01) return "under 1 %";
  return share > 0.99 ? "over 99 %" : `${Math.round(100 * share)} %`;
}

export const grouped = (value: number): string => String(value).replace(/\B(?=(\d{3})+$)/g, " ");
