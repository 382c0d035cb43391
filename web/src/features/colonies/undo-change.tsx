/** Undo of what was changed last of a colony: its hold, queen, lineage, boxes, a frame's place. */
import { useNavigate } from "@tanstack/react-router";
import { undoChange } from "@/client/commands/colonies";
import type { Schemas } from "@/client/types";
import { Undo } from "@/ui/undo";
import { CHANGE_UNDONE } from "@/wording/words";

type Props = { colony: Schemas["ColonyView"]["colony"]; change: Schemas["Change"] | null };

export function UndoChange({ colony, change }: Props) {
  const navigate = useNavigate();
  if (!change) return null;
  // A colony that was added by mistake is not there any more.
  const leaves = change.kind === "started" || change.kind === "split_from";
  const leave = () => void navigate({ to: "/apiaries/$id", params: { id: colony.apiary_id }, replace: true });
  return (
    <Undo
      key={change.change}
      label={`Undo ${CHANGE_UNDONE[change.kind]}`}
      undo={() => undoChange(colony.id, change.change)}
      onUndone={leaves ? leave : undefined}
    />
  );
}
