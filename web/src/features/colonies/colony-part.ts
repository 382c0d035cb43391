/** The parts of a colony's record, as they stand in the address. */
export const COLONY_PARTS = ["counts", "visits", "courses", "honey", "pests", "colony", "all"] as const;
export type ColonyPart = (typeof COLONY_PARTS)[number];
