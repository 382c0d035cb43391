/** The parts of a visit, in the order in which it is done. */
export const PARTS = [
  ["before", "Before opening"],
  ["frames", "Frames"],
  ["after", "The colony"],
  ["follows", "Next steps"],
] as const;
export type Part = (typeof PARTS)[number][0];
