/** Where a lot went, for a recall: every colony, with the day from which its honey is clear. */
import { useQuery } from "@tanstack/react-query";
import { lotColoniesQuery } from "@/client/queries";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { quantity } from "@/ui/units";

export function WherePlaced({ lotId, today }: { lotId: string; today: string }) {
  const query = useQuery(lotColoniesQuery(lotId));
  if (!query.data) return null;
  const colonies = new Set(query.data.map((one) => one.colony_id)).size;
  if (colonies === 0) return <p className="mt-3 text-ink-2">Nothing of it was placed in a hive.</p>;
  return (
    <details className="mt-3">
      <summary className="min-h-8 cursor-pointer py-1 font-semibold underline underline-offset-4">
        Where it went: {colonies} {colonies === 1 ? "colony" : "colonies"}
      </summary>
      <ul
        className="mt-1 max-h-96 overflow-y-auto border-t border-line text-[0.95rem]"
        tabIndex={0}
        aria-label="Where it went">
        {query.data.map((one) => (
          <li
            key={`${one.course_id}-${one.done_on}`}
            className="grid grid-cols-[5rem_1fr] gap-2 border-b border-line py-1">
            <span className="text-ink-2">{shortDay(one.done_on, today)}</span>
            <span>
              <TextLink to="/colonies/$id" params={{ id: one.colony_id }} className="font-semibold">
                {one.label}
              </TextLink>{" "}
              at {one.apiary} ({one.keeper})
              {one.quantity !== null && `, ${quantity(one.quantity, one.quantity_unit ?? "")}`}.{" "}
              {one.honey_clear_on ? `Honey clear ${shortDay(one.honey_clear_on, today)}` : "Honey: not known yet"}
              {one.honey_batches.length > 0 && `. Honey taken since: batch ${one.honey_batches.join(", ")}`}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}
