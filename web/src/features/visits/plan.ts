/**
 * The hive of a visit as the box plan draws it: what was recorded here or there, what was there last time, what
 * changed.
 */
import type { PlanBox } from "@/instruments/box-plan";
import { brood } from "@/instruments/comb-side";
import { BOX_PURPOSE, FLOOR } from "@/wording/words";
import {
  EMPTY_FRAME,
  boxesOf,
  coloniesOf,
  dividedAfter,
  frameKey,
  type FrameRecord,
  type Unsent,
  type View,
} from "./visit-queue";

export function floorName(view: View): string {
  const floor = view.place.hive?.hive.floor;
  return floor ? FLOOR[floor] : "floor";
}

/** The record of a slot: what is here and not yet sent goes before what the server has. */
export function recordAt(view: View, unsent: Unsent, box: string, slot: number): FrameRecord | null {
  const here = unsent[frameKey(box, slot)];
  if (here) return here.content as FrameRecord;
  return view.records.find((one) => one.box_id === box && one.slot === slot)?.record ?? null;
}

export function planBoxes(view: View, unsent: Unsent): PlanBox[] {
  let number = 0;
  const framed = boxesOf(view).filter((box) => box.frames > 0).length;
  const side = coloniesOf(view).find((one) => one.id === view.colony.id)?.hive_side;
  const divided = dividedAfter(view);
  const other = coloniesOf(view).find((one) => one.id !== view.colony.id)?.label ?? "";
  return boxesOf(view).map((box) => {
    if (box.frames > 0) number += 1;
    const own = (slot: number) =>
      divided === null || side === null || side === undefined || slot <= divided === (side === "left");
    const purpose = BOX_PURPOSE[box.purpose] ?? box.purpose;
    return {
      id: box.id,
      purpose: box.purpose,
      name: box.frames > 0 && framed > 1 ? `Box ${number}, ${purpose}` : purpose[0]?.toUpperCase() + purpose.slice(1),
      frames: box.frames,
      own,
      owner: (slot: number) => (own(slot) ? view.colony.label : other),
      numbered: (slot: number) => (view.place.hive?.hive.numbered_from === "right" ? box.frames + 1 - slot : slot),
      slots: Array.from({ length: box.frames }, (_, index) => {
        const slot = index + 1;
        const record = recordAt(view, unsent, box.id, slot);
        const previous = view.previous.find((one) => one.box_id === box.id && one.slot === slot)?.record ?? null;
        const looked = record !== null && previous !== null && (record.a || record.b) && (previous.a || previous.b);
        return {
          record,
          previous,
          kind: view.place.frames.find((one) => one.box_id === box.id && one.slot === slot)?.kind ?? null,
          brood: looked ? brood(record) - brood(previous) : null,
          news: Boolean(
            record?.signs.some((sign) => previous && !previous.signs.some((old) => old.sign === sign.sign)),
          ),
          suspect: Boolean(record?.signs.some((sign) => view.assessment.suspicious.includes(sign.sign))),
          conflict: ["conflict", "refused"].includes(unsent[frameKey(box.id, slot)]?.state ?? ""),
        };
      }),
    };
  });
}

export const orEmpty = (record: FrameRecord | null): FrameRecord => record ?? EMPTY_FRAME;
