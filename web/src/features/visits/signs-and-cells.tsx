/** The signs and queen cells recorded on a frame, each to be taken back. */
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { CELL_CONTENT } from "@/wording/words";
import type { ChangeFrame, FrameRecord } from "./visit-queue";

type Props = { record: FrameRecord; signs: Schemas["Sign"][]; onChange: (change: ChangeFrame) => void };

export function SignsAndCells({ record, signs, onChange }: Props) {
  if (record.signs.length === 0 && record.cells.length === 0) return null;
  const of = (id: string) => signs.find((one) => one.id === id);
  const name = (id: string) => of(id)?.name ?? id.replaceAll("_", " ");
  return (
    <ul className="border-t border-line">
      {record.signs.map((one, index) => (
        <li key={`${one.sign}-${index}`} className="flex items-center justify-between border-b border-line">
          <span>
            <strong className={of(one.sign)?.suspicious ? "text-act" : ""}>{name(one.sign)}</strong>,{" "}
            {one.number ?? one.extent ?? "seen"}
            {one.side && `, side ${one.side}`}
          </span>
          <Button
            variant="quiet"
            aria-label={`Remove: ${name(one.sign)}`}
            onClick={() => onChange((old) => ({ ...old, signs: old.signs.filter((_, at) => at !== index) }))}>
            Remove
          </Button>
        </li>
      ))}
      {record.cells.map((one, index) => (
        <li key={`${one.content}-${index}`} className="flex items-center justify-between border-b border-line">
          <span>
            {CELL_CONTENT[one.content]}: <strong>{one.number}</strong>,{" "}
            {one.place === "face" ? "on the face" : "on the edge"}
          </span>
          <Button
            variant="quiet"
            aria-label={`Remove: ${CELL_CONTENT[one.content]}`}
            onClick={() => onChange((old) => ({ ...old, cells: old.cells.filter((_, at) => at !== index) }))}>
            Remove
          </Button>
        </li>
      ))}
    </ul>
  );
}
