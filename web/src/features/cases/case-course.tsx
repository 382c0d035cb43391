/** The course of a case as stations along a line: where it has been and when, where it stands, what is to come. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";

type View = Schemas["CaseView"];
type State = Schemas["CaseLine"]["state"];

const STATIONS = [
  "suspected",
  "reported",
  "sampled",
  "laboratory",
  "result",
  "order",
  "looked at again",
  "released",
  "closed",
] as const;
/** At which station a case stands in each state; the compiler asks for all of them. */
const STATION: Record<State, (typeof STATIONS)[number]> = {
  suspected: "suspected",
  reopened: "suspected",
  reported: "reported",
  sampled: "sampled",
  lab_pending: "laboratory",
  negative: "result",
  inconclusive: "result",
  confirmed: "result",
  order_issued: "order",
  order_done: "order",
  recheck_due: "looked at again",
  reinspect_due: "looked at again",
  reinspected_clear: "looked at again",
  reinspected_positive: "looked at again",
  not_supported: "looked at again",
  released: "released",
  closed: "closed",
};

/** The day on which a station was reached last. */
function reachedOn(view: View, station: string): string | null {
  const reached = view.steps.filter((step) => {
    const target = step.act === "raise" ? "suspected" : step.target;
    return STATION[target as State] === station;
  });
  return reached.at(-1)?.happened_on ?? null;
}

export function CaseCourse({ view }: { view: View }) {
  return (
    <ol
      aria-label="The course of the case"
      className="mt-5 grid grid-cols-1 gap-y-0 desk:grid-cols-[repeat(9,minmax(0,1fr))]">
      {STATIONS.map((name) => {
        const day = reachedOn(view, name);
        const here = name === STATION[view.line.state];
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
