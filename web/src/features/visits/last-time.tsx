/** The frame in hand as it was at the visit that is compared with: drawn, and in words. */
import { useQuery } from "@tanstack/react-query";
import { signsQuery } from "@/client/queries";
import { SideColumn } from "@/instruments/comb-side";
import { inWords } from "@/instruments/plan-slot";
import { shortDay } from "@/ui/dates";
import { CELL_CONTENT, COMB_STATE } from "@/wording/words";
import type { Schemas } from "@/client/types";
import { oneDecimal } from "@/ui/units";
import type { VisitState } from "./use-visit";
import { boxesOf } from "./visit-queue";

/** What of its brood should be sealed and open by now, at the least: a difference shows as soon as it is recorded. */
function ByToday({ grown }: { grown: Schemas["CombCohort"] }) {
  if (grown.sealed_expected < 0.5 && grown.open_expected < 0.5) return null;
  return (
    <p className={grown.is_short ? "font-semibold text-watch" : ""}>
      By now at least {oneDecimal(grown.sealed_expected)} tenths sealed
      {grown.open_expected >= 0.5 && `, ${oneDecimal(grown.open_expected)} open`}
      {grown.is_short && `: ${grown.sealed_found} found`}.
    </p>
  );
}

export function LastTime({ visit: { view, frame, at } }: { visit: VisitState }) {
  const signs = useQuery(signsQuery);
  const compared = view.compared_with;
  if (!compared || !frame) return null;
  const was = frame.previous;
  const box = boxesOf(view)
    .filter((one) => one.frames > 0)
    .findIndex((one) => one.id === at?.box);
  const grown = view.assessment.cohorts?.combs.find((one) => one.box === box + 1 && one.slot === at?.slot);
  const nameOf = (id: string) => signs.data?.find((one) => one.id === id)?.name ?? id.replaceAll("_", " ");
  return (
    <section aria-labelledby="then">
      <h2 id="then" className="text-lg">
        This frame on {shortDay(compared.visited_on, view.today)}
      </h2>
      {was ? (
        <div className="mt-1 grid grid-cols-[4.5rem_minmax(0,1fr)] gap-3">
          <div className="flex h-28 border border-t-[5px] border-line-2 border-t-ink bg-sheet" aria-hidden="true">
            <SideColumn side={was.a} />
            <span className="w-px bg-line-2" />
            <SideColumn side={was.b} />
          </div>
          <div className="text-ink-2">
            <p>{inWords({ ...frame, record: was, kind: "comb" }).replaceAll("; ", ".\n")}.</p>
            {was.signs.map((one) => (
              <p key={one.sign} className="font-semibold text-ink">
                {nameOf(one.sign)}, {one.number ?? one.extent ?? "seen"}
              </p>
            ))}
            {was.cells.map((one) => (
              <p key={one.content}>
                {CELL_CONTENT[one.content]}: {one.number}
              </p>
            ))}
            {was.comb.length > 0 && <p>{was.comb.map((one) => COMB_STATE[one]).join(", ")}</p>}
            {was.note && <p>“{was.note}”</p>}
            {grown && <ByToday grown={grown} />}
          </div>
        </div>
      ) : (
        <p className="text-ink-2">It was not looked at then.</p>
      )}
    </section>
  );
}
