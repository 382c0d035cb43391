/** Drawing on the box plan: a tap, or one stroke across frames, says on each frame down to where something reaches. */
import { useRef, useState, type PointerEvent } from "react";

/** Down to where, in tenths of its side, a frame was drawn upon; and on which half of its slot. */
export type Stroke = { slot: number; half: "a" | "b"; tenths: number };

/** Where on which slot a pointer stands, or nothing beside them. */
function under(row: HTMLElement, x: number, y: number): Stroke | null {
  for (const slot of row.querySelectorAll<HTMLElement>("[data-slot]:not(:disabled)")) {
    const box = slot.getBoundingClientRect();
    if (x < box.left || x >= box.right) continue;
    const share = (y - box.top) / box.height;
    const tenths = Math.max(0, Math.min(10, Math.round(share * 10)));
    return { slot: Number(slot.dataset["slot"]), half: x < (box.left + box.right) / 2 ? "a" : "b", tenths };
  }
  return null;
}

/**
 * Follows a pointer over a row of slots. What it draws is told as it goes, for the plan to show, and once at its end:
 * only that is recorded. One that begins beside the slots draws nothing.
 */
export function useStroke(onEnd: ((strokes: Stroke[]) => void) | null) {
  const [drawn, setDrawn] = useState<Stroke[]>([]);
  const going = useRef<Stroke[]>([]);
  const follow = (event: PointerEvent<HTMLElement>) => {
    const at = under(event.currentTarget, event.clientX, event.clientY);
    if (!at) return;
    going.current = [...going.current.filter((one) => one.slot !== at.slot), at];
    setDrawn(going.current);
  };
  const stop = () => {
    going.current = [];
    setDrawn([]);
  };
  const hand = onEnd && {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      const slot = (event.target as HTMLElement).closest("[data-slot]");
      if (event.button !== 0 || !slot) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      follow(event);
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => going.current.length > 0 && follow(event),
    onPointerUp: () => {
      if (going.current.length > 0) onEnd(going.current);
      stop();
    },
    onPointerCancel: stop,
  };
  return { drawn, hand: hand ?? {} };
}
