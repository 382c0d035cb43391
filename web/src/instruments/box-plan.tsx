/**
 * The box plan: the hive as it stands, from the top box to the floor, frames as slots with their two sides. What is
 * recorded shows in the slot, so that the shape of the brood nest appears; the visit before lies under it.
 */
import { clsx } from "clsx";
import { useEffect, useRef, type ReactNode } from "react";
import type { Schemas } from "@/client/types";
import { COVER } from "@/wording/words";

const COVERS = Object.keys(COVER) as (keyof typeof COVER)[];

export type Side = Schemas["CombSide"];
export type FrameRecord = Schemas["FrameRecord"];
export type PlanFrame = {
  record: FrameRecord | null;
  previous: FrameRecord | null;
  kind: string | null;
  brood: number | null;
  news: boolean;
  conflict: boolean;
  suspect: boolean;
};
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
/**
 * From so many frames on, as in a long hive, a row is wider than a phone: it scrolls, and the frame chosen stays in
 * sight.
 */
const MANY = 12;
export type At = { box: string; slot: number };

/** From the top bar down: stores arch over the brood. */
const LAYERS = [
  ["honey", "var(--honey)"],
  ["nectar", "var(--nectar)"],
  ["pollen", "var(--pollen)"],
  ["capped", "var(--capped)"],
  ["open", "var(--open)"],
  ["eggs", "var(--eggs)"],
  ["drone", "var(--drone)"],
] as const;
export const COVER_FILL: Record<string, string> = { ...Object.fromEntries(LAYERS), bees: "var(--bees)" };
const KINDS: Record<string, string> = {
  foundation: "foundation",
  drone_comb: "drone",
  feeder: "feeder",
  dummy: "board",
};

export function brood(record: FrameRecord | null): number {
  return [record?.a, record?.b].reduce(
    (sum, side) => sum + (side ? side.capped + side.open + side.eggs + side.drone : 0),
    0,
  );
}

/** A frame in words, for whoever does not see the plan. */
export function inWords(frame: PlanFrame): string {
  const { record } = frame;
  if (frame.kind === null) return "no frame";
  if (frame.kind in KINDS && frame.kind !== "drone_comb" && !record) return KINDS[frame.kind] ?? "";
  if (!record) return "not looked at";
  const side = (name: string, one: Side | null | undefined) =>
    one
      ? `side ${name}: ${
          COVERS.filter((cover) => one[cover])
            .map((cover) => `${COVER[cover]} ${one[cover]}`)
            .join(", ") || (one.eggs_seen ? "eggs seen" : "empty")
        }`
      : "";
  const said = [side("a", record.a), side("b", record.b)].filter(Boolean);
  if (record.queen) said.push("queen seen");
  if (record.signs.length) said.push(`${record.signs.length} signs`);
  if (record.cells.length) said.push("queen cells");
  return said.join("; ") || "looked at";
}

function SideColumn({ side }: { side: Side | null | undefined }) {
  if (!side) return <div className="h-full flex-1" />;
  return (
    <div className="flex h-full flex-1 flex-col">
      {LAYERS.map(
        ([name, fill]) =>
          side[name] > 0 && <div key={name} style={{ height: `${side[name] * 10}%`, background: fill }} />,
      )}
      {side.eggs_seen && side.eggs === 0 && <div className="h-[6%]" style={{ background: "var(--eggs)" }} />}
    </div>
  );
}

/** What was seen in the slot, marked upon it: the queen, signs, cells, and that two people differ. */
function Marks({ frame, queenMark }: { frame: PlanFrame; queenMark: string | null }) {
  const { record } = frame;
  return (
    <>
      {record?.queen && (
        <svg
          viewBox="0 0 22 22"
          className="absolute left-1/2 top-1/2 w-[22px] -translate-x-1/2 -translate-y-1/2"
          aria-hidden="true">
          <circle cx="11" cy="11" r="9" fill={queenMark ?? "var(--sheet)"} stroke="var(--sheet)" strokeWidth="2.500" />
          <circle cx="11" cy="11" r="10.200" fill="none" stroke="var(--ink)" strokeWidth="1.200" />
          {!queenMark && (
            <text x="11" y="15" textAnchor="middle" fontSize="11" fontWeight="700" fill="var(--ink)">
              Q
            </text>
          )}
        </svg>
      )}
      {(record?.signs.length ?? 0) > 0 && (
        <svg viewBox="0 0 18 16" className="absolute right-0.5 top-0.5 w-[18px]" aria-hidden="true">
          <path
            d="M9 1 17 15H1z"
            fill={frame.suspect ? "var(--act)" : "var(--watch)"}
            stroke="var(--sheet)"
            strokeWidth="1.500"
          />
        </svg>
      )}
      {(record?.cells.length ?? 0) > 0 && (
        <svg viewBox="0 0 12 16" className="absolute bottom-0.5 right-0.5 w-[12px]" aria-hidden="true">
          <path d="M1 1h10v7c0 4-2 7-5 7S1 12 1 8z" fill="var(--watch)" stroke="var(--sheet)" strokeWidth="1.500" />
        </svg>
      )}
      {frame.conflict && (
        <span className="absolute inset-x-0 top-0 bg-act text-center text-xs font-bold text-sheet">!</span>
      )}
    </>
  );
}

function Slot({
  frame,
  chosen,
  here,
  number,
  queenMark,
  tall,
  withPrevious,
  onChoose,
  onMove,
  name,
}: {
  frame: PlanFrame;
  chosen: boolean;
  here: boolean;
  number: number;
  queenMark: string | null;
  tall: boolean;
  withPrevious: boolean;
  onChoose: () => void;
  onMove?: ((by: number) => void) | undefined;
  name: string;
}) {
  const { record, previous } = frame;
  const bees = record ? Math.max(record.a?.bees ?? 0, record.b?.bees ?? 0) : 0;
  const change = frame.brood;
  return (
    <div className="min-w-0 flex-1">
      <button
        type="button"
        data-mark
        data-keys="through"
        data-slot={number}
        disabled={!here}
        aria-pressed={chosen}
        aria-label={`${name}, frame ${number}: ${inWords(frame)}`}
        onClick={onChoose}
        onKeyDown={(event) => {
          const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
          if (by !== undefined && onMove) {
            event.preventDefault();
            onMove(by);
          }
        }}
        className={clsx(
          "relative flex w-full flex-col border-t-[5px] border-ink",
          tall ? "h-32 desk:h-36" : "h-16 desk:h-20",
          !here && "opacity-45",
        )}>
        <span
          className={clsx(
            "absolute inset-0 flex",
            frame.kind === null
              ? "border border-dashed border-line-2"
              : chosen
                ? "border-[3px] border-ink"
                : "border border-line-2",
            record || frame.kind === null ? "bg-sheet" : "hatch bg-paper",
            frame.kind === "foundation" && !record && "bg-sheet",
          )}>
          {record && (record.a || record.b) && (
            <>
              <SideColumn side={record.a} />
              <span className="w-px bg-ink" />
              <SideColumn side={record.b} />
            </>
          )}
          {frame.kind && frame.kind in KINDS && (
            <span
              className={clsx(
                "absolute inset-x-0 bottom-1 overflow-hidden text-center text-xs leading-none",
                "[writing-mode:vertical-rl]",
              )}>
              {KINDS[frame.kind]}
            </span>
          )}
        </span>
        <Marks frame={frame} queenMark={queenMark} />
      </button>
      <div className={clsx("text-center", chosen && "bg-ink text-sheet")}>
        <span className="figure text-base">{number}</span>
      </div>
      <div className="mx-0.5 h-1.5 bg-line">
        <div className="h-full" style={{ width: `${Math.min(100, bees * 10)}%`, background: "var(--bees)" }} />
      </div>
      {withPrevious && (
        <div
          className={clsx("mx-0.5 mt-1 flex h-9 border border-line", previous && "bg-sheet")}
          title={previous ? "last time" : undefined}>
          {previous && (
            <>
              <SideColumn side={previous.a} />
              <span className="w-px bg-line-2" />
              <SideColumn side={previous.b} />
            </>
          )}
        </div>
      )}
      {withPrevious && (
        <div
          className={clsx(
            "h-5 text-center text-xs font-semibold",
            change === null || change === 0 ? "text-ink-3" : change > 0 ? "text-clear" : "text-watch",
          )}>
          {change === null
            ? frame.news
              ? "new"
              : ""
            : change === 0
              ? "="
              : `${change > 0 ? "+" : "−"}${Math.abs(change)}`}
        </div>
      )}
    </div>
  );
}

/** The frames of a box side by side; a long row moves so that the frame chosen is in sight, the page stays. */
function Row({ long, chosen, children }: { long: boolean; chosen: number | null; children: ReactNode }) {
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
    <div ref={row} className={clsx("flex gap-px", long ? "overflow-x-auto pb-1" : "desk:gap-1.5")}>
      {children}
    </div>
  );
}

export function BoxPlan({
  boxes,
  at,
  floor,
  queenMark,
  dividedAfter,
  comparedWith,
  onChoose,
}: {
  boxes: PlanBox[];
  at: At | null;
  floor: string;
  queenMark: string | null;
  dividedAfter: number | null;
  comparedWith: string | null;
  onChoose: (at: At) => void;
}) {
  const withPrevious = boxes.some((one) => one.slots.some((each) => each.previous !== null));
  return (
    <figure aria-label="Box plan">
      <ol className="flex flex-col-reverse">
        {boxes.map((box) =>
          box.frames === 0 ? (
            <li
              key={box.id}
              className={clsx(
                "border-x-[3px] border-ink px-2 text-center text-xs",
                box.purpose === "excluder"
                  ? "border-y-2 border-y-ink border-dashed"
                  : "border-t border-line bg-paper py-1",
              )}>
              {box.name}
            </li>
          ) : (
            <li key={box.id} className="border-[3px] border-b-0 border-ink bg-paper px-1.5 pb-1 pt-1 desk:px-3">
              <p className="mb-1 flex justify-between text-sm text-ink-2">
                {dividedAfter === null
                  ? `${box.name}${box.frames > MANY ? `, ${box.frames} frames` : ""}`
                  : [1, box.frames].map((slot) => (
                      <span key={slot} className={box.own(slot) ? "font-bold text-ink" : ""}>
                        {box.owner(slot)}
                        {slot === 1 && <span className="font-normal text-ink-2">, {box.name.toLowerCase()}</span>}
                      </span>
                    ))}
              </p>
              <Row long={box.frames > MANY} chosen={at?.box === box.id ? at.slot : null}>
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
                      <Slot
                        frame={frame}
                        chosen={at?.box === box.id && at.slot === slot}
                        here={box.own(slot)}
                        number={box.numbered(slot)}
                        queenMark={queenMark}
                        withPrevious={withPrevious}
                        tall={at === null || at.box === box.id}
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
          ),
        )}
      </ol>
      <div className="flex items-center border-[3px] border-t-[6px] border-ink px-2 text-xs">
        <span className="flex-1">{floor}</span>
        {(dividedAfter === null ? [0] : [0, 1]).map((each) => (
          <span
            key={each}
            className={clsx("w-20 border-x-[3px] border-ink bg-paper text-center desk:w-24", each && "ml-4")}>
            entrance
          </span>
        ))}
        <span className="flex-1" />
      </div>
      <figcaption className="mt-2 flex flex-wrap gap-x-3 gap-y-1 text-xs text-ink-2">
        {Object.entries(COVER).map(([name, says]) => (
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
        {withPrevious && comparedWith && <span>{comparedWith}</span>}
      </figcaption>
    </figure>
  );
}
