/** The frame in hand: what hangs there and what was seen of it; swiped to the next on a small screen. */
import { clsx } from "clsx";
import { useRef, type ReactNode, type TouchEvent } from "react";
import { TextLink } from "@/ui/link";
import { EmptySlot } from "./empty-slot";
import { FrameRecorder } from "./frame-recorder";
import { Settle } from "./settle";
import type { At } from "./use-frame-cursor";
import type { VisitState } from "./use-visit";
import { boxesOf, frameKey } from "./visit-queue";

const SWIPE_PX = 70;
const STRAY_PX = 50;

type Props = { visit: VisitState; bars?: boolean; act?: ReactNode };

export function FrameInHand({ visit, bars = true, act }: Props) {
  const { at, chosen, frame, framed, go } = visit;
  const swipe = useSwipe(go);
  if (!at || !chosen || !frame) return null;
  return (
    <section id="frame" aria-label="This frame" className="min-w-0 touch-pan-y" {...swipe}>
      <div className={clsx("mb-2 flex items-center justify-between gap-2", !bars && "sr-only")}>
        <h2 className="text-2xl">
          Frame {chosen.numbered(at.slot)}
          <span className="text-base font-normal text-ink-2">
            {framed.length > 1 ? `, ${chosen.name.toLowerCase()}` : ""}
          </span>
        </h2>
        {act}
      </div>
      <Settle piece={frameKey(at.box, at.slot)} visit={visit} />
      <WhatHangsHere visit={visit} at={at} bars={bars} />
      <CombLink visit={visit} at={at} />
    </section>
  );
}

/** The comb that hangs here keeps its history wherever it hung before. */
function CombLink({ visit, at }: { visit: VisitState; at: At }) {
  const hangs = visit.view.place.frames.find((one) => one.box_id === at.box && one.slot === at.slot);
  if (!hangs) return null;
  return (
    <p className="mt-2">
      <TextLink to="/combs/$id" params={{ id: hangs.id }}>
        Where this comb has been
      </TextLink>
    </p>
  );
}

/** A swipe along the frame goes to the next or the one before; bars and fields keep their own drags. */
function useSwipe(go: (by: number) => void) {
  const from = useRef<{ x: number; y: number } | null>(null);
  return {
    onTouchStart: (event: TouchEvent) => {
      const touch = event.touches.item(0);
      const own = (event.target as HTMLElement).closest("[role=slider],input");
      from.current = touch && !own ? { x: touch.clientX, y: touch.clientY } : null;
    },
    onTouchEnd: (event: TouchEvent) => {
      const touch = event.changedTouches.item(0);
      const began = from.current;
      if (!touch || !began) return;
      const across = touch.clientX - began.x;
      if (Math.abs(across) > SWIPE_PX && Math.abs(touch.clientY - began.y) < STRAY_PX) go(across < 0 ? 1 : -1);
    },
  };
}

function WhatHangsHere({ visit, at, bars }: { visit: VisitState; at: At; bars: boolean }) {
  const { view, frame, writable, move } = visit;
  const target = { to_box: at.box, to_slot: at.slot };
  if (!frame) return null;
  if (frame.kind === null) {
    return (
      <EmptySlot
        view={view}
        format={boxesOf(view).find((box) => box.id === at.box)?.frame_format ?? null}
        disabled={!writable || move.isPending}
        error={visit.picked ? null : move.error}
        onBring={(kind) => move.mutate({ picked: null, kind, target, why: "", id: crypto.randomUUID() })}
        onHang={(frameId, name) => visit.hang({ frameId, name }, target)}
      />
    );
  }
  if (!writable) return <p className="text-ink-2">{frame.record ? frame.record.note : "Not looked at."}</p>;
  return <FrameRecorder key={`${at.box}-${at.slot}`} visit={visit} bars={bars} />;
}
