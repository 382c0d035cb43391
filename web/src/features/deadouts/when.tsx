/** When it died, drawn from the last sign of life to the first of death, and what its brood tells of before. */
import type { DeadOutView } from "@/client/commands/deadouts";
import type { Schemas } from "@/client/types";
import { daysBetween, shortDay } from "@/ui/dates";
import { Notice, SectionHeading } from "@/ui/page";
import { capital, BOUND, BROOD_TOLD } from "@/wording/words";

type Timeline = Schemas["Timeline"];

export function When({ view }: { view: DeadOutView }) {
  const { timeline, today } = view;
  return (
    <section aria-labelledby="when">
      <SectionHeading id="when">When it died</SectionHeading>
      <div className="mt-3 space-y-3">
        <InWords timeline={timeline} today={today} />
        <Drawn timeline={timeline} today={today} />
        <ul>
          {timeline.bounds.map((bound) => (
            <li
              key={`${bound.code}${bound.on}`}
              className="grid grid-cols-[7rem_1fr] gap-x-3 border-t border-line py-1">
              <span className="text-ink-2">{shortDay(bound.on, today)}</span>
              <span>{capital(BOUND[bound.code])}</span>
            </li>
          ))}
        </ul>
        {timeline.brood.length > 0 && (
          <ul aria-label="What the brood tells">
            {timeline.brood.map((left) => (
              <li key={left.code}>
                {capital(BROOD_TOLD[left.code])}: {inDays(left.span, today)}.
              </li>
            ))}
          </ul>
        )}
      </div>
    </section>
  );
}

function inDays({ earliest, latest }: Schemas["DaySpan"], today: string): string {
  if (earliest && latest) return `${shortDay(earliest, today)} to ${shortDay(latest, today)}`;
  return latest ? `${shortDay(latest, today)} or before` : "not known";
}

function InWords({ timeline, today }: { timeline: Timeline; today: string }) {
  const { conflict } = timeline;
  if (conflict)
    return (
      <Notice tone="act">
        The record contradicts itself: {BOUND[conflict.alive.code]} {shortDay(conflict.alive.on, today)}, but{" "}
        {BOUND[conflict.dead.code]} {shortDay(conflict.dead.on, today)}. Which is right?
      </Notice>
    );
  if (!timeline.earliest)
    return <p>By {shortDay(timeline.latest, today)}; nothing on record says when it last lived.</p>;
  return (
    <p>
      Between <strong>{shortDay(timeline.earliest, today)}</strong> and{" "}
      <strong>{shortDay(timeline.latest, today)}</strong>
      {timeline.best_guess && `, best guess ${shortDay(timeline.best_guess, today)}`}.
    </p>
  );
}

const ALIVE = ["visit_alive", "count_alive", "fed_alive", "noted_alive", "sensor_warm", "weight_falls", "bees_soft"];

/** Days from left to right: filled marks where it lived, open ones where it was dead, the interval between them. */
function Drawn({ timeline, today }: { timeline: Timeline; today: string }) {
  const days = timeline.bounds.map((one) => one.on);
  const first = days[0];
  const last = days.at(-1);
  if (!first || !last || first === last || timeline.conflict) return null;
  const width = daysBetween(first, last);
  const at = (day: string) => `${3 + (94 * daysBetween(first, day)) / width}%`;
  return (
    <div aria-hidden="true" className="relative h-14">
      <span className="absolute left-[3%] right-[3%] top-5 h-px bg-line-2" />
      {timeline.earliest && (
        <span
          className="absolute top-[15px] h-2.5 bg-ink-2"
          style={{ left: at(timeline.earliest), right: `calc(100% - ${at(timeline.latest)})` }}
        />
      )}
      {timeline.bounds.map((bound) => (
        <span
          key={`${bound.code}${bound.on}`}
          className={
            ALIVE.includes(bound.code)
              ? "absolute top-3 h-4 w-4 -translate-x-1/2 rounded-full border-2 border-ink bg-ink"
              : "absolute top-3 h-4 w-4 -translate-x-1/2 border-2 border-ink bg-sheet"
          }
          style={{ left: at(bound.on) }}
        />
      ))}
      <span className="absolute left-0 top-8 text-xs text-ink-2">{shortDay(first, today)}</span>
      <span className="absolute right-0 top-8 text-xs text-ink-2">{shortDay(last, today)}</span>
    </div>
  );
}
