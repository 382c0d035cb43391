/** The queen and her eggs as one fact: what was seen of them, in one tap. */
import type { After } from "./visit-queue";

export type QueenAndEggs = "both" | "queen" | "eggs" | "queen_no_eggs" | "neither" | "not_looked";
type Seen = Pick<After, "queen" | "eggs_seen">;

export const QUEEN_AND_EGGS: { id: QueenAndEggs; says: string; record: Seen }[] = [
  { id: "both", says: "queen and eggs", record: { queen: "seen", eggs_seen: true } },
  { id: "eggs", says: "only eggs", record: { queen: "eggs_only", eggs_seen: true } },
  { id: "queen", says: "queen", record: { queen: "seen", eggs_seen: null } },
  { id: "queen_no_eggs", says: "queen, no eggs", record: { queen: "seen", eggs_seen: false } },
  { id: "neither", says: "neither", record: { queen: "neither", eggs_seen: false } },
  { id: "not_looked", says: "not looked for", record: { queen: "not_looked", eggs_seen: null } },
];

/** What a record says of them; eggs without a word of the queen are only eggs. */
export function queenAndEggs({ queen, eggs_seen: eggs }: Seen): QueenAndEggs | null {
  if (queen === "seen") return eggs === true ? "both" : eggs === false ? "queen_no_eggs" : "queen";
  if (queen === "not_looked") return eggs === true ? "eggs" : "not_looked";
  if (queen === "eggs_only" || eggs === true) return "eggs";
  return queen === "neither" || eggs === false ? "neither" : null;
}
