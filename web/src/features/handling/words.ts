/** How options stand and what became of them, in words. */
import type { Condition } from "@/client/handling-queries";
import type { Schemas } from "@/client/types";
import { grouped, rounded } from "@/ui/figures";

const HANDLED: Record<Condition, true> = {
  chalkbrood: true,
  sacbrood: true,
  laying_workers: true,
  efb: true,
  afb: true,
};

/** Whether schools differ in how a condition is handled. */
export const isHandled = (condition: string): condition is Condition => condition in HANDLED;

export const FIT: Record<Schemas["OptionJudged"]["fit"], string> = {
  fits: "fits this colony",
  possible: "possible",
  unlikely: "hardly fits",
  barred: "not now",
};

export const OUTCOME: Record<NonNullable<Schemas["HandlingView"]["outcome"]>, string> = {
  gone: "gone",
  less: "less",
  same: "the same",
  more: "more",
};

/** "about 33 cells" */
export const cellsSaid = (cells: number): string =>
  cells === 0 ? "no sick cell" : `about ${grouped(rounded(cells))} cells`;
