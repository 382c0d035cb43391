/** The frames of a visit: the box plan with last time under it, and the frame in hand. */
import { useNavigate } from "@tanstack/react-router";
import { BoxPlan } from "@/instruments/box-plan";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { Notice } from "@/ui/page";
import { QUEEN_TRACE } from "@/wording/sentences";
import { FrameInHand } from "./frame-in-hand";
import { LineEntry } from "./line-entry";
import { MoveBar } from "./move-frame";
import { floorName } from "./plan";
import { MARK } from "@/ui/level";
import { Since } from "./since";
import type { VisitState } from "./use-visit";
import { dividedAfter, frameKey, type FrameRecord } from "./visit-queue";

type Props = { visit: VisitState; line: boolean; setLine: (open: boolean) => void; openBoxes: () => void };

export function FramesPart({ visit, line, setLine, openBoxes }: Props) {
  const { view, framed, at, picked, writable } = visit;
  const compared = view.compared_with;
  return (
    <div className="grid items-start gap-x-8 gap-y-4 desk:grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)]">
      <div className="min-w-0 space-y-3">
        {picked && (
          <MoveBar
            here={
              at && view.place.frames.some((one) => one.id === picked.frameId)
                ? { to_box: at.box, to_slot: at.slot }
                : null
            }
            view={view}
            picked={picked}
            move={visit.move}
            onCancel={visit.putDown}
            last={visit.lastTarget}
            setLast={visit.setLastTarget}
          />
        )}
        {line && writable && <FrameLines visit={visit} onClose={() => setLine(false)} />}
        {framed.length === 0 ? (
          <Notice>Say first in which boxes it lives: the hive is on the colony’s page.</Notice>
        ) : (
          <BoxPlan
            boxes={visit.boxes}
            at={at}
            floor={floorName(view)}
            queenMark={view.colony.mark_seen ? MARK[view.colony.mark_seen] : null}
            dividedAfter={dividedAfter(view)}
            comparedWith={compared ? `under each frame: ${shortDay(compared.visited_on, view.today)}` : null}
            onChoose={visit.choose}
          />
        )}
        <div className="flex flex-wrap items-center gap-3">
          <ComparedWith visit={visit} />
          {writable && !line && <Button onClick={() => setLine(true)}>Write as a line</Button>}
          {writable && <Button onClick={openBoxes}>Boxes</Button>}
        </div>
        <Since view={view} numbered={(box, slot) => framed[box - 1]?.numbered(slot) ?? slot} />
        {writable && <WhereTheQueenMayBe visit={visit} />}
      </div>
      <FrameInHand visit={visit} />
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
    visit.keep(frameKey(target.id, physical), record);
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
  const places = view.assessment.trace.map((one) => {
    const box = framed.length > 1 ? `${one.box}.` : "";
    return `${box}${framed[one.box - 1]?.numbered(one.slot) ?? one.slot} (${QUEEN_TRACE[one.why]})`;
  });
  return <p className="text-sm text-ink-2">Look for the queen on {places.join(", ")}.</p>;
}
