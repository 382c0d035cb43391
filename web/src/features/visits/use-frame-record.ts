/** What is recorded of the frame in hand, the short ways to it, and the side that is at hand where the two differ. */
import { useState } from "react";
import type { Side } from "@/instruments/comb-side";
import { useDesk } from "@/ui/use-desk";
import { EMPTY_SIDE, RARE, areSame } from "./covers";
import { orEmpty, recordAt } from "./plan";
import type { VisitState } from "./use-visit";
import { frameKey, type ChangeFrame } from "./visit-queue";

export type FrameState = NonNullable<ReturnType<typeof useFrameRecord>>;

export function useFrameRecord(visit: VisitState) {
  const { at, chosen, view, unsent } = visit;
  const found = at ? recordAt(view, unsent, at.box, at.slot) : null;
  const record = orEmpty(found);
  const desk = useDesk();
  const [differ, setDiffer] = useState(!areSame(record.a, record.b));
  const [side, setSide] = useState<"a" | "b">("a");
  const [more, setMore] = useState(RARE.some((name) => (record.a?.[name] ?? 0) > 0 || (record.b?.[name] ?? 0) > 0));
  const key = at ? frameKey(at.box, at.slot) : "";
  const change = (next: ChangeFrame) => at && visit.keepFrame(at.box, at.slot, next);
  const alike = !differ;
  const previous = (at && chosen?.slots[at.slot - 1]?.previous) ?? null;
  const beforeSlot = at && chosen && chosen.own(at.slot - 1) ? at.slot - 1 : 0;
  const before = chosen?.slots[beforeSlot - 1]?.record ?? null;
  const sides: readonly ("a" | "b")[] = alike ? ["a"] : desk ? ["a", "b"] : [side];

  const set = (which: "a" | "b", part: Partial<Side>) => {
    change((old) => {
      const next = { ...(old[which] ?? EMPTY_SIDE), ...part };
      return alike ? { ...old, a: next, b: next } : { ...old, [which]: next };
    });
  };
  /** To the other side where it was not at hand yet, else to the next frame. */
  const next = () => (sides.length === 1 && differ && side === "a" ? setSide("b") : visit.go(1));
  const lastTime = () => {
    if (!previous) return;
    change((old) => ({ ...old, a: previous.a ?? null, b: previous.b ?? null, comb: previous.comb }));
    visit.go(1);
  };
  const asBefore = () => {
    if (!before) return;
    change((old) => ({ ...old, a: before.a ?? null, b: before.b ?? null }));
    visit.go(1);
  };
  const stores = () => {
    const full = { ...EMPTY_SIDE, honey: 10 };
    change((old) => ({ ...old, a: full, b: full }));
    visit.go(1);
  };
  const queen = () => change((old) => ({ ...old, queen: !old.queen }));
  const differing = (yes: boolean) => {
    setDiffer(yes);
    setSide("a");
  };
  return {
    ...{ record, previous, change, set, alike, differing, sides, more, setMore },
    ...{ next, lastTime, asBefore, stores, queen },
    fault: visit.faultOf(key),
    beforeNumber: before && chosen ? chosen.numbered(beforeSlot) : null,
    nextIsSide: sides.length === 1 && differ && side === "a",
  };
}
