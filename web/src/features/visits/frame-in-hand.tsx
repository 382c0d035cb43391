/** The frame in hand: what was seen of it, its pictures, and the way to the next; swiped on a small screen. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useRef, type TouchEvent } from "react";
import { signsQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { EmptySlot } from "./empty-slot";
import { FrameRecorder } from "./frame-recorder";
import { Photos } from "./photos";
import { orEmpty, recordAt } from "./plan";
import { Settle } from "./settle";
import type { At } from "./use-frame-cursor";
import type { VisitState } from "./use-visit";
import { boxesOf, frameKey, type FrameRecord } from "./visit-queue";

const SWIPE_PX = 70;
const STRAY_PX = 50;

export function FrameInHand({ visit }: { visit: VisitState }) {
  const { at, chosen, frame, framed, go, writable } = visit;
  const swipe = useSwipe(go);
  if (!at || !chosen || !frame) return null;
  return (
    <section id="frame" aria-label="This frame" className="min-w-0 scroll-mt-14 touch-pan-y" {...swipe}>
      <div className="mb-2 flex items-baseline justify-between gap-2">
        <h2 className="text-2xl">
          Frame {chosen.numbered(at.slot)}
          <span className="text-base font-normal text-ink-2">
            {framed.length > 1 ? `, ${chosen.name.toLowerCase()}` : ""}
          </span>
        </h2>
        {writable && frame.kind !== null && (
          <Button variant="quiet" onClick={() => visit.pickUp(visit.frameName)}>
            Move it
          </Button>
        )}
      </div>
      <Settle piece={frameKey(at.box, at.slot)} visit={visit} />
      <WhatHangsHere visit={visit} at={at} />
      <FramePhotos visit={visit} at={at} />
      <div
        className={clsx(
          "sticky bottom-0 -mx-4 mt-3 grid grid-cols-2 gap-2 border-t border-line bg-paper p-2 desk:static",
          "desk:mx-0 desk:border-0 desk:p-0",
        )}>
        <Button big onClick={() => go(-1)}>
          Frame before
        </Button>
        <Button big variant="main" onClick={() => go(1)}>
          Next frame
        </Button>
      </div>
    </section>
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

function WhatHangsHere({ visit, at }: { visit: VisitState; at: At }) {
  const { view, frame, writable, move } = visit;
  const key = frameKey(at.box, at.slot);
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
  return (
    <FrameRecorder
      key={`${at.box}-${at.slot}`}
      record={orEmpty(recordAt(view, visit.unsent, at.box, at.slot))}
      previous={frame.previous}
      fault={visit.faultOf(key)}
      onChange={(record: FrameRecord) => visit.keep(key, record)}
      onNext={() => visit.go(1)}
    />
  );
}

function FramePhotos({ visit, at }: { visit: VisitState; at: At }) {
  const { view, chosen, frame, writable } = visit;
  const signs = useQuery(signsQuery);
  if (!frame || !chosen || frame.kind === null || !(writable || view.photos.length > 0)) return null;
  const nameOf = (sign: string) => signs.data?.find((each) => each.id === sign)?.name ?? sign;
  return (
    <div className="mt-3">
      <Photos
        view={view}
        at={at}
        writable={writable}
        name={`frame ${chosen.numbered(at.slot)}`}
        signs={(frame.record?.signs ?? []).map((one) => ({ id: one.sign, name: nameOf(one.sign) }))}
      />
    </div>
  );
}
