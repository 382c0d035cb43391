/** A slot of the box plan: the frame in it with its two sides, what was seen on it, and last time under it. */
import { clsx } from "clsx";
import type { KeyboardEvent } from "react";
import { COVER } from "@/wording/words";
import { SideColumn, type FrameRecord } from "./comb-side";

const COVERS = Object.keys(COVER) as (keyof typeof COVER)[];

export type PlanFrame = {
  record: FrameRecord | null;
  previous: FrameRecord | null;
  kind: string | null;
  brood: number | null;
  news: boolean;
  conflict: boolean;
  suspect: boolean;
};
/** How tall a slot is drawn: pinned over the frame in hand, in the box in hand or another, or to be drawn upon. */
export type SlotSize = "pinned" | "usual" | "low" | "drawn";

const KINDS: Record<string, string> = {
  foundation: "foundation",
  drone_comb: "drone",
  feeder: "feeder",
  dummy: "board",
};
const HEIGHT: Record<SlotSize, string> = {
  pinned: "h-14",
  usual: "h-32 desk:h-28",
  low: "h-16 desk:h-20",
  drawn: "h-72",
};

/** A frame in words, for whoever does not see the plan. */
export function inWords(frame: PlanFrame): string {
  const { record } = frame;
  if (frame.kind === null) return "no frame";
  if (frame.kind in KINDS && frame.kind !== "drone_comb" && !record) return KINDS[frame.kind] ?? "";
  if (!record) return "not looked at";
  const side = (name: string, one: FrameRecord["a"]) =>
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

type Props = {
  frame: PlanFrame;
  slot: number;
  chosen: boolean;
  here: boolean;
  number: number;
  queenMark: string | null;
  size: SlotSize;
  withPrevious: boolean;
  onChoose: () => void;
  onMove: (by: number) => void;
  name: string;
};

export function PlanSlot(props: Props) {
  const { frame, slot, chosen, here, number, size, onChoose, onMove, name } = props;
  const moved = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    onMove(by);
  };
  return (
    <div className="min-w-0 flex-1">
      <button
        type="button"
        data-mark
        data-keys="through"
        data-slot={slot}
        disabled={!here}
        aria-pressed={chosen}
        aria-label={`${name}, frame ${number}: ${inWords(frame)}`}
        onClick={onChoose}
        onKeyDown={moved}
        className={clsx(
          "relative flex w-full flex-col border-t-[5px] border-ink",
          HEIGHT[size],
          !here && "opacity-45",
        )}>
        <Comb {...props} />
        <Marks frame={frame} queenMark={props.queenMark} />
      </button>
      {size === "pinned" ? <LastTime {...props} /> : <Below {...props} />}
    </div>
  );
}

/** The comb with both sides as they are covered; where nothing was looked at it is hatched. */
function Comb({ frame, chosen, size }: Props) {
  const { record } = frame;
  const bees = beesOn(record);
  return (
    <span
      data-comb
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
      {size === "drawn" && bees > 0 && (
        <span
          className="absolute right-0 top-0 w-1.5 border-l border-sheet"
          style={{ height: `${bees * 10}%`, background: "var(--bees)" }}
        />
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
  );
}

const beesOn = (record: FrameRecord | null) => (record ? Math.max(record.a?.bees ?? 0, record.b?.bees ?? 0) : 0);

/** The number of the frame, the bees upon it, last time, and by how much its brood has grown. */
function Below(props: Props) {
  const { frame, chosen, number, withPrevious } = props;
  const change = frame.brood;
  return (
    <>
      <div className={clsx("text-center", chosen && "bg-ink text-sheet")}>
        <span className="figure text-base">{number}</span>
      </div>
      <div className="mx-0.5 h-1.5 bg-line">
        <div
          className="h-full"
          style={{ width: `${Math.min(100, beesOn(frame.record) * 10)}%`, background: "var(--bees)" }}
        />
      </div>
      {withPrevious && <Previous frame={frame} className="mx-0.5 mt-1 h-9" />}
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
    </>
  );
}

/** Under a pinned slot: last time and the number, no more. */
function LastTime({ frame, chosen, number, withPrevious }: Props) {
  return (
    <>
      {withPrevious && <Previous frame={frame} className="mt-0.5 h-7" />}
      <div className={clsx("text-center leading-5", chosen && "bg-ink text-sheet")}>
        <span className="figure text-base">{number}</span>
      </div>
    </>
  );
}

function Previous({ frame: { previous }, className }: { frame: PlanFrame; className: string }) {
  return (
    <div
      className={clsx("flex border border-line", className, previous && "bg-sheet")}
      title={previous ? "last time" : undefined}>
      {previous && (
        <>
          <SideColumn side={previous.a} />
          <span className="w-px bg-line-2" />
          <SideColumn side={previous.b} />
        </>
      )}
    </div>
  );
}
