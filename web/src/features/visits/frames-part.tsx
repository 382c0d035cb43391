/**
 * The frames of a visit. At the desk the plan has the width, and under it stand the frame in hand, the same frame last
 * time and what follows. In the field the box in hand stays pinned over the frame's bars.
 */
import { useNavigate } from "@tanstack/react-router";
import type { ReactNode } from "react";
import { UndoChange } from "@/features/colonies/undo-change";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { Notice } from "@/ui/page";
import { useDesk } from "@/ui/use-desk";
import { QUEEN_TRACE } from "@/wording/sentences";
import { BrushRow } from "./brush-row";
import { FrameInHand } from "./frame-in-hand";
import { FrameRest } from "./frame-rest";
import { LastTime } from "./last-time";
import { LineEntry } from "./line-entry";
import { MoveBar } from "./move-frame";
import { Findings } from "./next-steps";
import { Since } from "./since";
import { useBrush, type Brush } from "./use-brush";
import type { VisitState } from "./use-visit";
import { VisitPlan } from "./visit-plan";
import type { FrameRecord } from "./visit-queue";

type Props = { visit: VisitState; line: boolean; setLine: (open: boolean) => void; openBoxes: () => void };

export function FramesPart(props: Props) {
  const { visit, line, setLine } = props;
  const desk = useDesk();
  const brush = useBrush(visit);
  if (visit.framed.length === 0)
    return <Notice>Say first in which boxes it lives: the hive is on the colony’s page.</Notice>;
  const Layout = desk ? AtTheDesk : InTheField;
  return (
    <Layout {...props} brush={brush}>
      <InHand visit={visit} />
      {line && visit.writable && <FrameLines visit={visit} onClose={() => setLine(false)} />}
    </Layout>
  );
}

type LayoutProps = Props & { brush: Brush; children: ReactNode };

function AtTheDesk({ visit, brush, line, setLine, openBoxes, children }: LayoutProps) {
  return (
    <div className="space-y-3">
      {children}
      <BrushRow visit={visit} brush={brush} />
      <VisitPlan visit={visit} at={visit.at} drawing={brush.drawing} legend={!visit.writable} />
      <div className="grid items-start gap-x-8 gap-y-5 desk:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)_minmax(0,1fr)]">
        <FrameInHand visit={visit} />
        <div className="space-y-4">
          <LastTime visit={visit} />
          <FrameRest visit={visit} />
        </div>
        <div className="space-y-4">
          <Around visit={visit} />
          <Findings view={visit.view} />
        </div>
      </div>
      <OtherWays visit={visit} line={line} setLine={setLine} openBoxes={openBoxes} />
    </div>
  );
}

function InTheField({ visit, brush, line, setLine, openBoxes, children }: LayoutProps) {
  return (
    <div className="space-y-3">
      {children}
      <div className="sticky top-0 z-10 -mx-4 border-b-2 border-ink bg-paper px-2 pt-1">
        <p className="flex justify-between gap-3 px-1.5 text-sm">
          <span>
            <strong>{visit.view.colony.label}</strong>
            {visit.chosen && `, ${visit.chosen.name.toLowerCase()}`}
          </span>
          {visit.waiting > 0 && <strong>{visit.waiting} not sent</strong>}
        </p>
        <VisitPlan visit={visit} at={visit.at} drawing={brush.drawing} pinned />
        {brush.on && <BrushRow visit={visit} brush={brush} />}
      </div>
      <FrameInHand
        visit={visit}
        bars={!brush.on}
        act={
          visit.writable && (
            <Button variant="quiet" onClick={() => brush.choose("honey")}>
              On the plan
            </Button>
          )
        }
      />
      <details className="border-t border-line">
        <summary className="font-semibold underline underline-offset-4">
          More of this frame: comb, note, photo, move
        </summary>
        <FrameRest visit={visit} />
      </details>
      <Around visit={visit} />
      <OtherWays visit={visit} line={line} setLine={setLine} openBoxes={openBoxes} />
    </div>
  );
}

/** The frame that was picked up, and where it may go. */
function InHand({ visit }: { visit: VisitState }) {
  const { view, at, picked } = visit;
  if (!picked) return visit.draft ? <UndoMove view={view} /> : null;
  const hanging = view.place.frames.some((one) => one.id === picked.frameId);
  return (
    <MoveBar
      here={at && hanging ? { to_box: at.box, to_slot: at.slot } : null}
      view={view}
      picked={picked}
      move={visit.move}
      onCancel={visit.putDown}
      last={visit.lastTarget}
      setLast={visit.setLastTarget}
    />
  );
}

/** A frame or the boxes, as they were before the last change. */
function UndoMove({ view: { colony, undoable } }: { view: VisitState["view"] }) {
  const here = undoable?.kind === "frame_moved" || undoable?.kind === "boxes";
  return here ? <UndoChange colony={colony} change={undoable} /> : null;
}

/** What has changed since the visit compared with, and where the queen may be. */
function Around({ visit }: { visit: VisitState }) {
  const { view, framed, writable } = visit;
  return (
    <div className="space-y-2">
      <Since view={view} numbered={(box, slot) => framed[box - 1]?.numbered(slot) ?? slot} />
      {writable && <WhereTheQueenMayBe visit={visit} />}
    </div>
  );
}

function OtherWays({ visit, line, setLine, openBoxes }: Props) {
  const { writable } = visit;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <ComparedWith visit={visit} />
      {writable && !line && <Button onClick={() => setLine(true)}>Write as a line</Button>}
      {writable && <Button onClick={openBoxes}>Boxes</Button>}
    </div>
  );
}

/** Frames written as a line: each is recorded as it is taken; one that there is not is named. */
function FrameLines({ visit, onClose }: { visit: VisitState; onClose: () => void }) {
  const { view, framed } = visit;
  const take = (box: number, slot: number, record: FrameRecord) => {
    const target = framed[box - 1];
    if (!target || slot > target.frames) return `There is no frame ${slot} in box ${box}.`;
    const physical = view.place.hive?.hive.numbered_from === "right" ? target.frames + 1 - slot : slot;
    visit.keepFrame(target.id, physical, () => record);
    visit.show({ box: target.id, slot: physical });
    return null;
  };
  return (
    <LineEntry
      onClose={onClose}
      previousAt={(box, slot) => framed[box - 1]?.slots[slot - 1]?.previous ?? null}
      onTake={take}
    />
  );
}

function ComparedWith({ visit: { view, comparedWith } }: { visit: VisitState }) {
  const navigate = useNavigate({ from: "/visits/$id" });
  if (view.past.length === 0) return null;
  return (
    <label className="flex items-center gap-2 text-sm">
      Compared with
      <select
        className="input w-auto"
        value={comparedWith ?? view.compared_with?.id ?? ""}
        onChange={(event) =>
          void navigate({ search: (old) => ({ ...old, compared_with: event.target.value }), replace: true })
        }>
        {view.past.map((one) => (
          <option key={one.id} value={one.id}>
            {shortDay(one.visited_on, view.today)}
            {one.frames > 0 ? `, ${one.frames} frames` : ", no frames"}
          </option>
        ))}
      </select>
    </label>
  );
}

function WhereTheQueenMayBe({ visit: { view, framed } }: { visit: VisitState }) {
  if (view.assessment.trace.length === 0) return null;
  const reasons = new Map<string, string[]>();
  for (const one of view.assessment.trace) {
    const box = framed.length > 1 ? `${one.box}.` : "";
    const place = `${box}${framed[one.box - 1]?.numbered(one.slot) ?? one.slot}`;
    reasons.set(place, [...(reasons.get(place) ?? []), QUEEN_TRACE[one.why]]);
  }
  const places = [...reasons].map(([place, why]) => `${place} (${why.join(", ")})`);
  return <p className="text-sm text-ink-2">Look for the queen on {places.join(", ")}.</p>;
}
