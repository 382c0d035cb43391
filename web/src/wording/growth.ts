/** Growth between counts in a practitioner's words. */
type Grown = { words: string; doubling_days: number | null };

/** What stands after the word of a growth: how fast, where it is sure enough to say so, or that it may not be one. */
export function doubling(growth: Grown): string {
  if (growth.doubling_days === null) return "";
  if (growth.words === "really_rose") return `, doubling in about ${Math.round(growth.doubling_days)} days`;
  return growth.words === "probably_rose"
    ? `, doubling in about ${Math.round(growth.doubling_days)} days if it did; it may not be rising`
    : "";
}
