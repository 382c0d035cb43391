/**
 * The box plan: the hive as it stands, from the top box to the floor, frames as slots with their two sides. What is
 * recorded shows in the slot, so that the shape of the brood nest appears; the visit before lies under it.
 */
import { clsx } from "clsx";
import { useEffect, useRef, type ReactNode } from "react";
import { COVER } from "@/wording/words";
import { COVER_FILL, type FrameRecord } from "./comb-side";
import { PlanSlot, type PlanFrame, type SlotSize } from "./plan-slot";
import { useStroke, type Stroke } from "./plan-stroke";

export type PlanBox = {
  id: string;
  purpose: string;
  name: string;
  frames: number;
  own: (slot: number) => boolean;
  owner: (slot: number) => string;
  numbered: (slot: number) => number;
  slots: PlanFrame[];
};
/** What a tap or a stroke over the box in hand records: how a frame looks with it, and what is done at its end. */
export type Drawing = {
  look: (record: FrameRecord | null, stroke: Stroke) => FrameRecord;
  onEnd: (strokes: Stroke[]) => void;
};
/**
 * From so many frames on, as in a long hive, a row is wider than a phone: it scrolls, and the frame chosen stays in
 * sight.
 */
const MANY = 12;
export type At = { box: string; slot: number };

type Props = {
  boxes: PlanBox[];
  at: At | null;
  floor: string;
  queenMark: string | null;
  dividedAfter: number | null;
  comparedWith: string | null;
  /** Only the box in hand, pinned over its frame; or the whole hive. */
  pinned?: boolean;
  /** Left out where the page says it elsewhere. */
  legend?: boolean;
  drawing?: Drawing | null;
  onChoose: (at: At) => void;
};

export function BoxPlan(props: Props) {
  const { boxes, at, floor, dividedAfter, pinned = false, legend = !pinned, drawing = null } = props;
  const withPrevious = boxes.some((one) => one.slots.some((each) => each.previous !== null));
  const shown = pinned ? boxes.filter((one) => one.id === at?.box) : boxes;
  const size = (box: PlanBox): SlotSize => {
    const inHand = at === null || at.box === box.id;
    return drawing && inHand ? "drawn" : pinned ? "pinned" : inHand ? "usual" : "low";
  };
  return (
    <figure aria-label="Box plan">
      <ol className="flex flex-col-reverse">
        {shown.map((box) =>
          box.frames === 0 ? (
            <Flat key={box.id} box={box} />
          ) : (
            <Framed key={box.id} {...props} box={box} size={size(box)} withPrevious={withPrevious} />
          ),
        )}
      </ol>
      {!pinned && <Floor floor={floor} divided={dividedAfter !== null} />}
      {legend && <Legend comparedWith={withPrevious ? props.comparedWith : null} />}
    </figure>
  );
}

/** What has no frames: an excluder, a floor, a feeder on top. */
function Flat({ box }: { box: PlanBox }) {
  return (
    <li
      className={clsx(
        "border-x-[3px] border-ink px-2 text-center text-xs",
        box.purpose === "excluder" ? "border-y-2 border-y-ink border-dashed" : "border-t border-line bg-paper py-1",
      )}>
      {box.name}
    </li>
  );
}

type FramedProps = Props & { box: PlanBox; size: SlotSize; withPrevious: boolean };

function Framed({
  box,
  size,
  withPrevious,
  at,
  queenMark,
  dividedAfter,
  pinned = false,
  drawing,
  onChoose,
}: FramedProps) {
  const drawn = size === "drawn" && drawing ? drawing : null;
  const stroke = useStroke(drawn ? drawn.onEnd : null);
  const shownAs = (frame: PlanFrame, slot: number): PlanFrame => {
    const here = stroke.drawn.find((one) => one.slot === slot);
    return here && drawn ? { ...frame, record: drawn.look(frame.record, here) } : frame;
  };
  return (
    <li className={clsx("border-ink bg-paper px-1.5 pb-1 pt-1", !pinned && "border-[3px] border-b-0 desk:px-3")}>
      {!pinned && <Name box={box} divided={dividedAfter !== null} />}
      <Row
        long={box.frames > MANY}
        chosen={at?.box === box.id ? at.slot : null}
        hand={stroke.hand}
        drawn={drawn !== null}>
        {box.slots.map((frame, index) => {
          const slot = index + 1;
          return (
            <div
              key={slot}
              className={clsx(
                "flex flex-1",
                box.frames > MANY ? "min-w-8 desk:min-w-6" : "min-w-0",
                dividedAfter === slot && "border-r-4 border-ink pr-0.5",
              )}>
              <PlanSlot
                frame={shownAs(frame, slot)}
                slot={slot}
                chosen={at?.box === box.id && at.slot === slot}
                here={box.own(slot)}
                number={box.numbered(slot)}
                queenMark={queenMark}
                withPrevious={withPrevious}
                size={size}
                name={box.own(slot) ? box.name : `${box.name}, ${box.owner(slot)}`}
                onChoose={() => onChoose({ box: box.id, slot })}
                onMove={(by) => {
                  const next = slot + by;
                  if (next >= 1 && next <= box.frames) onChoose({ box: box.id, slot: next });
                }}
              />
            </div>
          );
        })}
      </Row>
    </li>
  );
}

function Name({ box, divided }: { box: PlanBox; divided: boolean }) {
  return (
    <p className="mb-1 flex justify-between text-sm text-ink-2">
      {!divided
        ? `${box.name}${box.frames > MANY ? `, ${box.frames} frames` : ""}`
        : [1, box.frames].map((slot) => (
            <span key={slot} className={box.own(slot) ? "font-bold text-ink" : ""}>
              {box.owner(slot)}
              {slot === 1 && <span className="font-normal text-ink-2">, {box.name.toLowerCase()}</span>}
            </span>
          ))}
    </p>
  );
}

type RowProps = {
  long: boolean;
  chosen: number | null;
  drawn: boolean;
  hand: ReturnType<typeof useStroke>["hand"];
  children: ReactNode;
};

/** The frames of a box side by side; a long row moves so that the frame chosen is in sight, the page stays. */
function Row({ long, chosen, drawn, hand, children }: RowProps) {
  const row = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const here = row.current;
    const slot = chosen === null ? null : here?.children.item(chosen - 1);
    if (!long || !here || !(slot instanceof HTMLElement)) return;
    const at = slot.offsetLeft - here.offsetLeft;
    here.scrollLeft = Math.min(
      Math.max(here.scrollLeft, at + 2 * slot.offsetWidth - here.clientWidth),
      Math.max(0, at - slot.offsetWidth),
    );
  }, [long, chosen]);
  return (
    <div
      ref={row}
      {...hand}
      className={clsx(
        "flex gap-px",
        long ? "overflow-x-auto pb-1" : "desk:gap-1.5",
        drawn && "touch-none cursor-crosshair select-none",
      )}>
      {children}
    </div>
  );
}

function Floor({ floor, divided }: { floor: string; divided: boolean }) {
  return (
    <div className="flex items-center border-[3px] border-t-[6px] border-ink px-2 text-xs">
      <span className="flex-1">{floor}</span>
      {(divided ? [0, 1] : [0]).map((each) => (
        <span
          key={each}
          className={clsx("w-20 border-x-[3px] border-ink bg-paper text-center desk:w-24", each && "ml-4")}>
          entrance
        </span>
      ))}
      <span className="flex-1" />
    </div>
  );
}

function Legend({ comparedWith }: { comparedWith: string | null }) {
  return (
    <figcaption className="mt-2 flex flex-wrap gap-x-3 gap-y-1 text-xs text-ink-2">
      {(Object.entries(COVER) as [keyof typeof COVER, string][]).map(([name, says]) => (
        <span key={name} className="inline-flex items-center gap-1">
          <span
            className="inline-block h-3.500 w-3.500 border border-line-2"
            style={{ background: COVER_FILL[name], width: 14, height: 14 }}
          />
          {says}
        </span>
      ))}
      <span>triangle: sign</span>
      <span>cup: queen cells</span>
      {comparedWith && <span>{comparedWith}</span>}
    </figcaption>
  );
}
