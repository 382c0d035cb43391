/** What a tap on the plan records: nothing, then a cover; on the same frame the next tap records the next one below. */
import { useState } from "react";
import type { Drawing } from "@/instruments/box-plan";
import { following, withStroke } from "./brush";
import type { CoverName } from "./covers";
import type { VisitState } from "./use-visit";

export type Brush = ReturnType<typeof useBrush>;

export function useBrush(visit: VisitState) {
  const [first, setFirst] = useState<CoverName | null>(null);
  const [going, setGoing] = useState<{ slot: number; cover: CoverName } | null>(null);
  const { at, chosen, keepFrame, show, picked, writable } = visit;
  const choose = (cover: CoverName | null) => {
    setFirst(cover);
    setGoing(null);
  };
  const coverAt = (slot: number): CoverName => (going?.slot === slot ? going.cover : (first ?? "honey"));
  const drawing: Drawing | null =
    first === null || picked || !writable || !at
      ? null
      : {
          look: (record, stroke) => withStroke(record, coverAt(stroke.slot), stroke),
          onEnd: (strokes) => {
            const [only, ...others] = strokes;
            if (!only) return;
            for (const one of strokes) {
              if (chosen?.slots[one.slot - 1]?.kind)
                keepFrame(at.box, one.slot, (old) => withStroke(old, coverAt(one.slot), one));
            }
            setGoing(others.length > 0 ? null : { slot: only.slot, cover: following(coverAt(only.slot)) });
            show({ box: at.box, slot: strokes.at(-1)?.slot ?? only.slot });
          },
        };
  /** The cover that the next tap on the frame in hand records. */
  const next = first === null ? null : at ? coverAt(at.slot) : first;
  return { on: first !== null, first, next, choose, drawing };
}
