/** What is drawn on the plan: a cover is chosen, then each frame is tapped where it ends, or stroked over. */
import { clsx } from "clsx";
import { COVER_FILL } from "@/instruments/comb-side";
import { Button } from "@/ui/button";
import { useDesk } from "@/ui/use-desk";
import { COVER } from "@/wording/words";
import { RARE, USUAL, type CoverName } from "./covers";
import type { Brush } from "./use-brush";
import type { VisitState } from "./use-visit";

const FROM_ABOVE: CoverName[] = ["honey", "capped", "open", "eggs", "bees"];

export function BrushRow({ visit, brush }: { visit: VisitState; brush: Brush }) {
  const desk = useDesk();
  const { at, chosen, writable } = visit;
  if (!writable) return null;
  const covers = desk ? [...FROM_ABOVE, ...RARE] : FROM_ABOVE.filter((one) => USUAL.includes(one));
  const frame = at && chosen ? chosen.numbered(at.slot) : null;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <div
        role="group"
        aria-label="Draw on the plan"
        className="grid w-full grid-cols-5 gap-px border border-ink bg-ink desk:flex desk:w-auto">
        {covers.map((cover) => (
          <button
            key={cover}
            type="button"
            aria-pressed={brush.first === cover}
            onClick={() => brush.choose(brush.first === cover && desk ? null : cover)}
            className={clsx(
              "flex min-h-14 items-center justify-center gap-1.5 px-1 text-sm font-semibold leading-tight desk:min-h-9",
              "flex-col py-1 desk:flex-row desk:px-2.5 desk:py-0",
              brush.first === cover ? "bg-ink text-sheet" : "bg-sheet text-ink",
            )}>
            <span
              className="inline-block size-3.5 shrink-0 border border-line-2"
              style={{ background: COVER_FILL[cover] }}
              aria-hidden="true"
            />
            {COVER[cover]}
          </button>
        ))}
      </div>
      <p className="min-w-0 flex-1 text-sm leading-tight text-ink-2" aria-live="polite">
        {brush.first === null || brush.next === null
          ? "Draw one on the plan, or use the bars. Triangle: sign; cup: cells."
          : brush.next === brush.first
            ? `Tap each frame down to where its ${COVER[brush.first]} reaches, or stroke across.`
            : `Frame ${frame}: the next tap ends its ${COVER[brush.next]}.`}
      </p>
      {!desk && (
        <Button variant="quiet" className="px-1!" onClick={() => brush.choose(null)}>
          Frame by frame
        </Button>
      )}
    </div>
  );
}
