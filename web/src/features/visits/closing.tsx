/** The end of a visit: closed once everything was sent, or dropped where it was opened by mistake. */
import { clsx } from "clsx";
import { useState } from "react";
import { Problem } from "@/client/types";
import { Button } from "@/ui/button";
import type { VisitState } from "./use-visit";

export function Closing({ visit, pinned = false }: { visit: VisitState; pinned?: boolean }) {
  const { close, drop, waiting, view } = visit;
  const unsettled = visit.conflicts.length + visit.refused.length;
  const [sure, setSure] = useState(false);
  const problem = close.error instanceof Problem ? close.error : null;
  return (
    <div
      className={clsx(
        "mt-4 space-y-3 border-t-2 border-ink pt-3",
        pinned && "sticky bottom-0 z-10 -mx-4 bg-paper px-4 pb-2 desk:static desk:mx-0 desk:px-0",
      )}>
      {problem && (
        <p role="alert" className="font-semibold text-act">
          {problem.message}
        </p>
      )}
      {unsettled > 0 && (
        <p className="font-semibold text-act">Settle first what is not kept yet: it is named on top.</p>
      )}
      <div className="grid grid-cols-[1fr_auto] gap-3 desk:flex">
        <Button
          variant="main"
          className="leading-tight"
          disabled={close.isPending || waiting > 0 || unsettled > 0}
          onClick={() => close.mutate()}>
          {waiting > 0 ? "Sending …" : `Close the visit to ${view.colony.label}`}
        </Button>
        {sure ? (
          <Button onClick={() => drop.mutate()} disabled={drop.isPending}>
            Yes, drop this draft
          </Button>
        ) : (
          <Button variant="quiet" onClick={() => setSure(true)}>
            Opened by mistake
          </Button>
        )}
      </div>
    </div>
  );
}
