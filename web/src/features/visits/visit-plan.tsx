/** The hive of a visit as its box plan: whole, with a frame in hand, or pinned over that frame. */
import { BoxPlan, type At, type Drawing } from "@/instruments/box-plan";
import { shortDay } from "@/ui/dates";
import { MARK } from "@/ui/level";
import { floorName } from "./plan";
import type { VisitState } from "./use-visit";
import { dividedAfter } from "./visit-queue";

type Props = { visit: VisitState; at?: At | null; pinned?: boolean; legend?: boolean; drawing?: Drawing | null };

export function VisitPlan({ visit, at = null, pinned = false, legend = !pinned, drawing = null }: Props) {
  const { view } = visit;
  const compared = view.compared_with;
  return (
    <BoxPlan
      boxes={visit.boxes}
      at={at}
      floor={floorName(view)}
      queenMark={view.colony.mark_seen ? MARK[view.colony.mark_seen] : null}
      dividedAfter={dividedAfter(view)}
      comparedWith={compared ? `under each frame: ${shortDay(compared.visited_on, view.today)}` : null}
      pinned={pinned}
      legend={legend}
      drawing={drawing}
      onChoose={visit.choose}
    />
  );
}
