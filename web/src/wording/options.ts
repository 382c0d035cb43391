/** Short names of treatment options for drawings; the full names come from the catalogue. */
export const COURSE_SHORT: Record<string, string> = {
  FA_STRIP2: "formic, 2 strips",
  FA_STRIP11: "formic, 1 + 1",
  OX_TRICKLE: "oxalic trickle",
};
