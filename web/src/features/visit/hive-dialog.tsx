/** The boxes of the hive, changed while it is open: a box added or taken off, floor, numbering, divider. */
import { HiveForm, type StandingHive } from "@/features/colony/hive-forms";
import type { Box } from "@/ui/boxes";
import { Dialog } from "@/ui/dialog";
import type { View } from "./keep";

function hiveOf(view: View): StandingHive {
  const { hive, dwellers, boxes } = view;
  return {
    version: hive.version,
    type: hive.hive_type,
    floor: hive.floor as StandingHive["floor"],
    from: hive.numbered_from as StandingHive["from"],
    boxes: boxes.map((box) => ({ id: box.id, purpose: box.purpose, frame_format: box.frame_format, frames: box.frames }) as Box),
    labels: dwellers.map((one) => one.label),
    dividedAfter: hive.divided_after,
    side: (dwellers.find((one) => one.id === view.colony.id)?.hive_side ?? "left") as StandingHive["side"],
  };
}

export function HiveDialog({ view, open, onClose }: { view: View; open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} title={`Boxes of ${view.colony.label}`}>
      {open && <HiveForm colony={view.colony} hive={hiveOf(view)} today={view.visit.visited_on} onDone={onClose} />}
    </Dialog>
  );
}
