/** The boxes of the hive, changed while it is open: a box added or taken off, floor, numbering, divider. */
import { HiveForm, type StandingHive } from "@/features/colonies/hive-forms";
import type { Box } from "@/features/colonies/boxes";
import { Dialog } from "@/ui/dialog";
import { boxesOf, coloniesOf, type View } from "./visit-queue";

function hiveOf(view: View): StandingHive {
  const hive = view.place.hive?.hive;
  const colonies = coloniesOf(view);
  return {
    version: hive?.version ?? 0,
    type: hive?.hive_type ?? "stacked boxes",
    floor: hive?.floor ?? "solid",
    from: hive?.numbered_from ?? "left",
    boxes: boxesOf(view).map(
      (box) => ({ id: box.id, purpose: box.purpose, frame_format: box.frame_format, frames: box.frames }) as Box,
    ),
    labels: colonies.map((one) => one.label),
    dividedAfter: hive?.divided_after ?? null,
    side: colonies.find((one) => one.id === view.colony.id)?.hive_side ?? "left",
  };
}

export function HiveDialog({ view, open, onClose }: { view: View; open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} title={`Boxes of ${view.colony.label}`}>
      {open && <HiveForm colony={view.colony} hive={hiveOf(view)} today={view.visit.visited_on} onDone={onClose} />}
    </Dialog>
  );
}
