/**
 * Recording on the plan itself: a tap on a frame says down to where a cover reaches. Covers lie on each other from the
 * top bar down; an end that is moved leaves the ends below it where they are, and never takes from what lies above.
 */
import { STACK, type FrameRecord, type Side } from "@/instruments/comb-side";
import type { Stroke } from "@/instruments/plan-stroke";
import { EMPTY_SIDE, areSame, type CoverName } from "./covers";
import { EMPTY_FRAME } from "./visit-queue";

/** The covers whose ends are tapped one after the other on a frame. */
export const DOWNWARDS: CoverName[] = ["honey", "capped", "open", "eggs"];

/** What the next tap on the same frame records after one of a cover. */
export function following(cover: CoverName): CoverName {
  const at = DOWNWARDS.indexOf(cover);
  return at < 0 ? cover : (DOWNWARDS[at + 1] ?? cover);
}

/** A side on which a cover reaches down to so many tenths. Bees walk over all of it: theirs is no end. */
export function withEnd(side: Side, cover: CoverName, tenths: number): Side {
  if (cover === "bees") return { ...side, bees: tenths };
  let sum = 0;
  const ends = STACK.map((name) => (sum += side[name]));
  const at = STACK.indexOf(cover);
  const least = at > 0 ? (ends[at - 1] ?? 0) : 0;
  const end = Math.max(least, tenths);
  const moved = ends.map((old, index) => (index < at ? old : index === at ? end : Math.max(old, end)));
  const tenthsOf = (index: number) => (moved[index] ?? 0) - (index > 0 ? (moved[index - 1] ?? 0) : 0);
  return { ...side, ...Object.fromEntries(STACK.map((name, index) => [name, tenthsOf(index)])) };
}

/** A frame with a stroke upon it: on both sides where they are alike, else on the half that was tapped. */
export function withStroke(record: FrameRecord | null, cover: CoverName, { half, tenths }: Stroke): FrameRecord {
  const old = record ?? EMPTY_FRAME;
  if (areSame(old.a, old.b)) {
    const both = withEnd(old.a ?? EMPTY_SIDE, cover, tenths);
    return { ...old, a: both, b: both };
  }
  return { ...old, [half]: withEnd(old[half] ?? EMPTY_SIDE, cover, tenths) };
}
