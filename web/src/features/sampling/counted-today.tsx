/** A colony that was counted today already: what was found, and that a second sample is put together with it. */
import type { Schemas } from "@/client/types";
import { Term } from "@/features/help/term";
import { shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import { METHOD } from "@/wording/words";

type Props = { count: Schemas["StripCount"]; label: string; today: string };

export function CountedToday({ count, label, today }: Props) {
  return (
    <section id="jar" role="tabpanel" aria-label={`Count of ${label}`} className="min-w-0 pb-4 pt-3 desk:pt-5">
      <h2 className="text-2xl">{label} was counted today</h2>
      {count.median !== null && (
        <p className="mt-3 flex items-end gap-4">
          <span className="figure text-[4.2rem]">{rate(count.median)}</span>
          <span className="pb-1.5 text-ink-2">
            mites per 100 bees
            <strong className="block text-ink">
              {rate(count.low ?? 0)} to {rate(count.high ?? 0)}, <Term id="interval">95 % interval</Term>
            </strong>
          </span>
        </p>
      )}
      <p className="mt-3 text-ink-2">
        {shortDay(count.taken_on, today)}, {METHOD[count.method]}
        {count.mites !== null && `: ${count.mites} mites`}
        {count.bees_mean !== null && ` in about ${Math.round(count.bees_mean)} bees`}. A second sample is{" "}
        <Term id="pooled">put together with it</Term>.
      </p>
    </section>
  );
}
