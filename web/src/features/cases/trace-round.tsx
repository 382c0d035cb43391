/** The round in which the contacts are seen: what is clear first, what is suspect last, the nearest next. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { plural, shortDay } from "@/ui/dates";
import { SectionHeading } from "@/ui/page";
import { oneDecimal } from "@/ui/units";

const SAYS: Record<Schemas["TraceStop"]["kind"], string> = {
  clear: "seen without a sign since",
  unknown: "not known",
  low: "low contact",
  medium: "medium contact",
  high: "high contact",
  suspect: "suspect: last stop of its day",
};

export function TraceRound({ stops, today }: { stops: Schemas["TraceStop"][]; today: string }) {
  if (stops.length === 0) return null;
  return (
    <section aria-labelledby="round">
      <SectionHeading id="round" says="clean before doubtful, doubtful before sick; inside a class the nearest next">
        In this order
      </SectionHeading>
      <p className="mt-2 max-w-prose text-ink-2">
        New gloves at every apiary; tools flamed or changed for every hive once dead brood was found; one suspect a day,
        then home, wash, another suit. After a new suspect no healthy apiary follows that day.
      </p>
      <ol className="mt-2 border-t border-line">
        {stops.map((stop, index) => (
          <li
            key={`${stop.apiary}${stop.keeper}`}
            className={clsx(
              "grid grid-cols-[2rem_minmax(0,1fr)] gap-x-4 border-b border-line py-2",
              "desk:grid-cols-[2rem_16rem_16rem_minmax(0,1fr)]",
            )}>
            <span className="figure">{index + 1}</span>
            <span>
              <b>{stop.apiary}</b>, {stop.keeper}
            </span>
            <span className="col-start-2 desk:col-start-auto">
              {SAYS[stop.kind]}, {plural(stop.colonies, "colony", "colonies")}
            </span>
            <span className="col-start-2 text-ink-2 desk:col-start-auto">
              by {shortDay(stop.see_by, today)}
              {stop.metres > 0 && `; ${oneDecimal(stop.metres / 1000)} km on by straight line`}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
