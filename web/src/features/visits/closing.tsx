/** The end of a visit: closed once everything was sent, or dropped where it was opened by mistake. */
import { useState } from "react";
import { Problem } from "@/client/types";
import { Button } from "@/ui/button";
import type { VisitState } from "./use-visit";

export function Closing({ visit }: { visit: VisitState }) {
  const { close, drop, waiting, view } = visit;
  const unsettled = visit.conflicts.length + visit.refused.length;
  const [sure, setSure] = useState(false);
  const problem = close.error instanceof Problem ? close.error : null;
  return (
    <div className="mt-6 space-y-3 border-t-2 border-ink pt-4">
      {problem && (
        <p role="alert" className="font-semibold text-act">
          {problem.message}
        </p>
      )}
      {unsettled > 0 && (
        <p className="font-semibold text-act">Settle first what is not kept yet: it is named on top.</p>
      )}
      <div className="flex flex-wrap gap-3">
        <Button
          variant="main"
          big
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
