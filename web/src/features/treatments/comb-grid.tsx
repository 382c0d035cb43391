/** The combs of a colony as they hang, box by box: some are ticked, or one slot is chosen. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";

type Work = Schemas["HiveWorkNow"];
type Box = Work["boxes"][number];
export type At = { box: string; slot: number };

const KIND: Record<Schemas["Comb"]["kind"], string> = {
  comb: "comb",
  foundation: "foundation",
  drone_comb: "drone comb",
  feeder: "feeder",
  dummy: "dummy board",
};

type Props = {
  work: Work;
  /** Boxes whose combs are offered. */
  boxes: Box[];
  isChosen: (at: At, comb: Schemas["Comb"] | undefined) => boolean;
  onTap: (at: At, comb: Schemas["Comb"] | undefined) => void;
  /** Whether an empty slot can be chosen. */
  empty: boolean;
  error?: string | undefined;
  label: string;
};

export function CombGrid({ work, boxes, isChosen, onTap, empty, error, label }: Props) {
  return (
    <div role="group" aria-label={label}>
      <p className="mb-1 font-semibold" aria-hidden="true">
        {label}
      </p>
      {boxes.map((box) => (
        <div key={box.id} className="mb-2">
          {boxes.length > 1 && (
            <p className="text-sm text-ink-2">
              {box.purpose === "super" ? "Super" : "Box"} {nth(work, box)} from the floor
            </p>
          )}
          <div className="grid grid-cols-5 gap-1 desk:grid-cols-10">
            {(work.own_slots[box.id] ?? []).map((slot) => {
              const comb = work.combs.find((one) => one.box_id === box.id && one.slot === slot);
              const at = { box: box.id, slot };
              const number = work.numbered_from === "right" ? box.frames + 1 - slot : slot;
              const says = comb ? (comb.brood ? "brood" : comb.kind === "comb" ? "" : KIND[comb.kind]) : "empty";
              return (
                <button
                  key={slot}
                  type="button"
                  aria-pressed={isChosen(at, comb)}
                  aria-label={`${number}${says && ` ${says}`}, ${boxes.length > 1 ? `box ${nth(work, box)}` : "frame"}`}
                  disabled={!comb && !empty}
                  onClick={() => onTap(at, comb)}
                  className={clsx(
                    "flex min-h-16 min-w-14 flex-col items-center justify-center border border-ink leading-tight",
                    "bg-sheet text-ink aria-pressed:bg-ink aria-pressed:text-sheet",
                    "disabled:border-line-2 disabled:text-ink-3 desk:min-h-14",
                  )}>
                  <span className="figure text-xl">{number}</span>
                  <span className="text-xs break-words">{says}</span>
                </button>
              );
            })}
          </div>
        </div>
      ))}
      {error && (
        <p role="alert" className="font-semibold text-act">
          {error}
        </p>
      )}
    </div>
  );
}

/** Which of the boxes that take frames it is, from the floor up. */
function nth(work: Work, box: Box): number {
  return work.boxes.filter((one) => one.frames > 0).findIndex((one) => one.id === box.id) + 1;
}
