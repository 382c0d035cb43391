/** Where a colony stood, latest first. */
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";

export function StayList({ stays, today }: { stays: Schemas["StayLine"][]; today: string }) {
  return (
    <ul className="mt-2 border-t border-line">
      {stays.map((stay) => (
        <li
          key={`${stay.apiary_id}${stay.since}`}
          className="grid gap-x-4 border-b border-line py-2 desk:grid-cols-[17rem_minmax(0,1fr)] desk:items-baseline">
          <span className="text-ink-2">
            {shortDay(stay.since, today)} to {stay.until === null ? "today" : shortDay(stay.until, today)}
          </span>
          <span>
            <TextLink to="/apiaries/$id" params={{ id: stay.apiary_id }} search={{}}>
              {stay.apiary}
            </TextLink>{" "}
            as {stay.label}
          </span>
        </li>
      ))}
    </ul>
  );
}
