/** The frame in hand: which slot of which box, and how one goes on from it. It stands in the address. */
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useCallback } from "react";
import type { PlanBox } from "@/instruments/box-plan";
import type { Part } from "./parts";

export type At = { box: string; slot: number };

/** The first of a colony's own slots in a box, or the last: another may live on the other side of its divider. */
function ownSlot(box: PlanBox, by: number): number {
  const own = Array.from({ length: box.frames }, (_, index) => index + 1).filter(box.own);
  return own.at(by > 0 ? 0 : -1) ?? 1;
}

export function useFrameCursor(boxes: PlanBox[], toPart: (next: Part) => void) {
  const { box: boxWanted, slot: slotWanted } = useSearch({ from: "/in/visits/$id" });
  const navigate = useNavigate({ from: "/visits/$id" });
  const framed = boxes.filter((box) => box.frames > 0);
  const chosen = framed.find((box) => box.id === boxWanted) ?? framed[0];
  const at: At | null = chosen ? { box: chosen.id, slot: slotWanted ?? ownSlot(chosen, 1) } : null;
  const frame = at && chosen ? chosen.slots[at.slot - 1] : undefined;
  const show = useCallback(
    (next: At) =>
      void navigate({
        search: (old) => ({ ...old, part: "frames" as const, box: next.box, slot: next.slot }),
        replace: true,
        resetScroll: false,
      }),
    [navigate],
  );
  /** To the next own slot, then to the next box, then to the colony as a whole. */
  const go = (by: number) => {
    if (!at || !chosen) return;
    let slot = at.slot + by;
    while (slot >= 1 && slot <= chosen.frames && !chosen.own(slot)) slot += by;
    if (slot >= 1 && slot <= chosen.frames) return show({ box: at.box, slot });
    const next = framed[framed.indexOf(chosen) + by];
    if (next) show({ box: next.id, slot: ownSlot(next, by) });
    else if (by > 0) toPart("after");
  };
  const frameName = at && chosen ? `${chosen.name}, frame ${chosen.numbered(at.slot)}` : "";
  return { framed, chosen, at, frame, frameName, show, go };
}
