/** How the parts of the form after the last frame change what is recorded. */
import type { After } from "./visit-queue";

export type SetAfter = (part: Partial<After>) => void;

/** Yes, no or not recorded, as a choice takes it. */
export const asFlag = (value: boolean | null | undefined): "" | "yes" | "no" =>
  value === null || value === undefined ? "" : value ? "yes" : "no";
