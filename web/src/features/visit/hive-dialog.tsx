/** The boxes of the hive, changed while it is open: a box added or taken off, floor, numbering, divider. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, api, ask, ifMatch } from "@/client/api";
import { Boxes, type Box } from "@/ui/boxes";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { Button, FormTrouble } from "@/ui/parts";
import { Stepper } from "@/ui/stepper";
import type { View } from "./keep";

type Floor = "solid" | "mesh" | "mesh_with_board";
const FLOORS = [["solid", "solid"], ["mesh", "mesh"], ["mesh_with_board", "mesh with board"]] as const;

export function HiveDialog({ view, open, onClose }: { view: View; open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} title={`Boxes of ${view.colony.label}`}>
      {open && <HiveBoxes view={view} onDone={onClose} />}
    </Dialog>
  );
}

function HiveBoxes({ view, onDone }: { view: View; onDone: () => void }) {
  const client = useQueryClient();
  const [boxes, setBoxes] = useState<Box[]>(view.boxes.map((box) => ({ id: box.id, purpose: box.purpose as Box["purpose"], frame_format: box.frame_format as Box["frame_format"] ?? null, frames: box.frames })));
  const [floor, setFloor] = useState(view.hive.floor as Floor);
  const [from, setFrom] = useState(view.hive.numbered_from as "left" | "right");
  const shared = view.dwellers.length > 1;
  const [after, setAfter] = useState<number | null>(view.hive.divided_after);
  const [side, setSide] = useState((view.dwellers.find((one) => one.id === view.colony.id)?.hive_side ?? "left") as "left" | "right");
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.PUT("/api/v1/colonies/{colony_id}/hive", {
          params: { path: { colony_id: view.colony.id }, header: ifMatch(view.hive.version) },
          body: { hive_type: view.hive.hive_type, boxes, on: view.visit.visited_on, floor, numbered_from: from, divided_after: shared ? after : null, side: shared && after !== null ? side : null },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries({ predicate: (query) => ["visit", "colony", "apiary"].includes(String(query.queryKey[0])) });
      onDone();
    },
  });
  const problem = save.error instanceof Problem ? save.error : null;
  return (
    <form noValidate className="space-y-4" onSubmit={(event) => { event.preventDefault(); save.mutate(); }}>
      {shared && <p className="text-ink-2">Shared by {view.dwellers.map((one) => one.label).join(" and ")}: it changes for both.</p>}
      <Boxes boxes={boxes} onChange={setBoxes} error={problem?.faults.find((fault) => fault.field.startsWith("boxes"))?.message} />
      <p className="text-sm text-ink-2">The frames of a box that is taken off go into store; a box that stays keeps its frames.</p>
      <div><p className="mb-1 font-semibold" aria-hidden="true">Floor</p><Choice label="Floor" value={floor} options={FLOORS} onChange={setFloor} /></div>
      <div><p className="mb-1 font-semibold" aria-hidden="true">Frame 1 hangs, seen from behind</p><Choice label="Frame 1 hangs" value={from} options={[["left", "on the left"], ["right", "on the right"]]} onChange={setFrom} /></div>
      {shared && (
        <>
          <Stepper label="Divider after slot" value={after} least={1} most={39} start={5} onChange={setAfter} />
          {after !== null && <div><p className="mb-1 font-semibold" aria-hidden="true">{view.colony.label} lives</p><Choice label="Side of the divider" value={side} options={[["left", "left of it"], ["right", "right of it"]]} onChange={setSide} /></div>}
        </>
      )}
      <FormTrouble error={save.error} fields={["boxes"]} />
      <Button type="submit" look="main" className="w-full" disabled={save.isPending}>Record the hive</Button>
    </form>
  );
}
