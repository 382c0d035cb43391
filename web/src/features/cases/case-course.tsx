/** The course of a case as stations along a line: where it has been and when, where it stands, what is to come. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";

type View = Schemas["CaseView"];
type State = Schemas["CaseLine"]["state"];

/** Stations, each reached by one of these states. */
const STATIONS: readonly (readonly [string, readonly State[]])[] = [
  ["suspected", ["suspected"]],
  ["reported", ["reported"]],
  ["sampled", ["sampled"]],
  ["laboratory", ["lab_pending"]],
  ["result", ["negative", "inconclusive", "confirmed"]],
  ["order done", ["order_done"]],
  ["looked at again", ["reinspected_clear", "reinspected_positive", "not_supported"]],
  ["released", ["released"]],
  ["closed", ["closed"]],
];

/** The day on which a station was reached last. */
function reachedOn(view: View, states: readonly State[]): string | null {
  const reached = view.steps.filter(
    (step) =>
      (states as readonly string[]).includes(step.target) || (step.act === "raise" && states.includes("suspected")),
  );
  return reached.at(-1)?.happened_on ?? null;
}

export function CaseCourse({ view }: { view: View }) {
  const at = STATIONS.findIndex(([, states]) => states.includes(view.line.state));
  return (
    <ol
      aria-label="The course of the case"
      className="mt-5 grid grid-cols-1 gap-y-0 desk:grid-cols-[repeat(9,minmax(0,1fr))]">
      {STATIONS.map(([name, states], number) => {
        const day = reachedOn(view, states);
        const here = number === at;
        return (
          <li
            key={name}
            aria-current={here ? "step" : undefined}
            className={clsx(
              "border-l-4 py-1 pl-3 desk:border-l-0 desk:border-t-4 desk:pl-0 desk:pr-2 desk:pt-2",
              day ? "border-ink" : "border-line-2",
              here && "border-act desk:border-t-8 desk:pt-1",
            )}>
            <span className={clsx(here ? "font-semibold" : day ? "" : "text-ink-2")}>{name}</span>
            {day && <span className="ml-2 text-ink-2 desk:ml-0 desk:block">{shortDay(day)}</span>}
          </li>
        );
      })}
    </ol>
  );
}
