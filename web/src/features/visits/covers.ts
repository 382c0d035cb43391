/** What covers the sides of a frame, and how a side without a record begins. */
import type { Side } from "@/instruments/comb-side";
import type { COVER } from "@/wording/words";

export type CoverName = keyof typeof COVER;
export const USUAL: CoverName[] = ["capped", "open", "eggs", "honey", "bees"];
export const RARE: CoverName[] = ["drone", "nectar", "pollen"];
export const KEY: Record<CoverName, string> = {
  capped: "c",
  open: "o",
  eggs: "e",
  honey: "h",
  bees: "b",
  drone: "d",
  nectar: "n",
  pollen: "p",
};
export const EMPTY_SIDE: Side = {
  capped: 0,
  open: 0,
  eggs: 0,
  drone: 0,
  honey: 0,
  nectar: 0,
  pollen: 0,
  eggs_seen: false,
  bees: null,
};

export const areSame = (a: Side | null | undefined, b: Side | null | undefined): boolean =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** Tenths of a side that are covered by brood and food; bees walk over all of it. */
export const covered = (side: Side | null | undefined): number =>
  side ? side.capped + side.open + side.eggs + side.drone + side.honey + side.nectar + side.pollen : 0;
