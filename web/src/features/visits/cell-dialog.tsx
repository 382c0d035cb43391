/** Queen cells on a frame: where, how many, and what is in them. */
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { Stepper } from "@/ui/stepper";
import { CELL_CONTENT } from "@/wording/words";

export function CellDialog({
  open,
  onClose,
  onAdd,
}: {
  open: boolean;
  onClose: () => void;
  onAdd: (cells: Schemas["QueenCells"]) => void;
}) {
  const [place, setPlace] = useState<"edge" | "face">("edge");
  const [number, setNumber] = useState(1);
  return (
    <Dialog open={open} onClose={onClose} title="Queen cells">
      <div className="space-y-4">
        <Choice
          label="Place"
          value={place}
          options={[
            ["edge", "edge of the comb"],
            ["face", "face of the comb"],
          ]}
          onChange={setPlace}
        />
        <Stepper
          label="How many"
          value={number}
          least={1}
          most={200}
          start={1}
          onChange={(next) => setNumber(next ?? 1)}
        />
        <p className="font-semibold">What is in them?</p>
        <div className="grid grid-cols-2 gap-2">
          {(Object.entries(CELL_CONTENT) as [Schemas["QueenCells"]["content"], string][]).map(([content, says]) => (
            <Button
              key={content}
              big
              className="leading-tight"
              onClick={() => {
                onAdd({ content, place, number });
                onClose();
              }}>
              {says}
            </Button>
          ))}
        </div>
      </div>
    </Dialog>
  );
}
