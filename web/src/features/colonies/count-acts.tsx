/** What can be done with a count where it is listed: its picture looked at, amended, undone a short while after it. */
import { undoCount } from "@/client/commands/counts";
import type { Schemas } from "@/client/types";
import { Undo } from "@/ui/undo";
import { METHOD } from "@/wording/words";

export type OnAmend = ((count: Schemas["Count"]) => void) | null;

const SMALL = "min-h-7 text-sm underline underline-offset-4";

type Props = { count: Schemas["Count"]; onAmend: OnAmend; onPicture: (id: string) => void };

export function CountActs({ count, onAmend, onPicture }: Props) {
  const { picture_id: picture } = count;
  return (
    <span className="inline-flex flex-wrap gap-x-3">
      {picture && (
        <button type="button" className={SMALL} onClick={() => onPicture(picture)}>
          Its picture
        </button>
      )}
      {onAmend && !picture && (
        <button type="button" className={SMALL} onClick={() => onAmend(count)}>
          Amend
        </button>
      )}
      {onAmend && count.may_undo && (
        <Undo label={`Undo: ${METHOD[count.method]}`} text="Undo" undo={() => undoCount(count.id)} />
      )}
    </span>
  );
}
