/** What planned courses will lack, the first day first; or that there is enough. */
import type { Schemas } from "@/client/types";
import { relativeDay, shortDay } from "@/ui/dates";
import { Notice } from "@/ui/page";
import { quantity } from "@/ui/units";

type Props = { view: Schemas["StockView"]; options: Schemas["OptionView"][] };

export function Lacking({ view, options }: Props) {
  const names = new Map(options.map((one) => [one.id, one.name]));
  const places = new Map(view.apiaries.map((one) => [one.id, one.name]));
  const short = view.needs.filter((one) => one.short_on !== null);
  const enough = view.needs.filter((one) => one.short_on === null);
  return (
    <section aria-label="What is lacking" className="mt-4 space-y-3">
      {short.map((one) => (
        <Notice key={one.option_id} tone="act">
          <strong>
            {quantity(one.short_by, one.unit)} short
            {one.short_on && ` from ${relativeDay(one.short_on, view.today)}, ${shortDay(one.short_on, view.today)}`}
          </strong>
          : {names.get(one.option_id)}
          {one.short_at && `, first at ${places.get(one.short_at)}`}. Planned courses need{" "}
          {quantity(one.needed, one.unit)}, {quantity(one.covered, one.unit)} are left for them.
          {one.expired > 0 && ` ${quantity(one.expired, one.unit)} in stock will be out of date by then.`}
        </Notice>
      ))}
      {enough.length > 0 && (
        <p className="text-ink-2">
          Enough for what is planned:{" "}
          {enough.map((one) => `${names.get(one.option_id)} (${quantity(one.needed, one.unit)})`).join("; ")}.
        </p>
      )}
      {view.needs.length === 0 && <p className="text-ink-2">No planned course waits for a product.</p>}
    </section>
  );
}
