/** Two people recorded the same piece: both are shown, and the person chooses. */
import { Button } from "@/ui/button";
import type { VisitState } from "./use-visit";

export function Settle({ piece, visit }: { piece: string; visit: VisitState }) {
  const { unsent, view, settle } = visit;
  if (unsent[piece]?.state !== "conflict") return null;
  const [, box, slot] = piece.split(":");
  const theirs = view.records.find((one) => one.box_id === box && one.slot === Number(slot));
  return (
    <div role="alert" className="mb-3 border-4 border-act bg-sheet p-3">
      <p className="font-semibold">{theirs?.by_name || "Somebody else"} recorded this meanwhile.</p>
      <p className="text-ink-2">Yours is shown here, unsent. Which stands?</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button variant="main" onClick={() => settle(piece, true)}>
          Keep mine
        </Button>
        <Button onClick={() => settle(piece, false)}>Keep theirs</Button>
      </div>
    </div>
  );
}
