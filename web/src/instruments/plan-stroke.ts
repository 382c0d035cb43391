/** Drawing on the box plan: a tap, or one stroke across frames, says on each frame down to where something reaches. */
import { useRef, useState, type PointerEvent } from "react";

/** Down to where, in tenths of its side, a frame was drawn upon; and on which half of its slot. */
export type Stroke = { slot: number; half: "a" | "b"; tenths: number };
type Point = { x: number; y: number };
type Box = { slot: number; left: number; right: number; top: number; height: number };

/** The slots that may be drawn upon, where they stand on the screen. */
function slotsOf(row: HTMLElement): Box[] {
  return [...row.querySelectorAll<HTMLElement>("[data-slot]:not(:disabled)")].map((one) => {
    const { left, right, top, height } = one.getBoundingClientRect();
    return { slot: Number(one.dataset["slot"]), left, right, top, height };
  });
}

const tenthsAt = (box: Box, y: number) => Math.max(0, Math.min(10, Math.round(((y - box.top) / box.height) * 10)));

/** A frame on the way of a stroke: once its middle was crossed, what was said there stands. */
type Drawn = Stroke & { crossed: boolean };

/**
 * What is drawn by a pointer that has gone from one point to another. A frame that was crossed has what the line said
 * in its middle, however fast the hand was; the one under the pointer what it says now.
 */
export function drawnBy(drawn: Drawn[], boxes: Box[], from: Point, to: Point): Drawn[] {
  const found = new Map(drawn.map((one) => [one.slot, one]));
  for (const box of boxes) {
    const middle = (box.left + box.right) / 2;
    const passed = middle > Math.min(from.x, to.x) && middle <= Math.max(from.x, to.x);
    const under = to.x >= box.left && to.x < box.right;
    const alone = [...found.keys()].every((slot) => slot === box.slot);
    if (passed && !(under && alone)) {
      const y = from.y + ((to.y - from.y) * (middle - from.x)) / (to.x - from.x);
      found.set(box.slot, { slot: box.slot, half: "a", tenths: tenthsAt(box, y), crossed: true });
    } else if (under && (alone || !found.get(box.slot)?.crossed)) {
      const half = to.x < middle ? "a" : "b";
      found.set(box.slot, { slot: box.slot, half, tenths: tenthsAt(box, to.y), crossed: false });
    }
  }
  return [...found.values()];
}

/**
 * Follows a pointer over a row of slots. What it draws is given as it goes, for the plan to show, and once at its end:
 * only that is recorded. One that begins off the slots draws nothing.
 */
export function useStroke(onEnd: ((strokes: Stroke[]) => void) | null) {
  const [drawn, setDrawn] = useState<Drawn[]>([]);
  const going = useRef<{ drawn: Drawn[]; last: Point; boxes: Box[] } | null>(null);
  const follow = (to: Point) => {
    const { current } = going;
    if (!current) return;
    current.drawn = drawnBy(current.drawn, current.boxes, current.last, to);
    current.last = to;
    setDrawn(current.drawn);
  };
  const stop = () => {
    going.current = null;
    setDrawn([]);
  };
  const point = (event: PointerEvent) => ({ x: event.clientX, y: event.clientY });
  const hand = onEnd && {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      if (event.button !== 0 || !(event.target as HTMLElement).closest("[data-slot]")) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      going.current = { drawn: [], last: point(event), boxes: slotsOf(event.currentTarget) };
      follow(point(event));
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => follow(point(event)),
    onPointerUp: () => {
      if (going.current && going.current.drawn.length > 0) onEnd(going.current.drawn);
      stop();
    },
    onPointerCancel: stop,
  };
  return { drawn, hand: hand ?? {} };
}
