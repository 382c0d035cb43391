/** The level of a colony on the rule, what its figure is made of, and what it means. */
import type { Schemas } from "@/client/types";
import { Meaning } from "@/features/sampling/meaning";
import { RateRule } from "@/instruments/rate-rule";
import { SectionHeading } from "@/ui/page";
import { rate } from "@/ui/units";
import { ChangeBetweenCounts } from "./change-between-counts";

type View = Schemas["ColonyView"];

export function LevelNow({ view }: { view: View }) {
  const { colony } = view;
  const lives = colony.is_living;
  const levels =
    view.latest?.judgement ?? view.phases.find((band) => band.first <= view.today && view.today <= band.last);
  const known = colony.level !== "unknown" && colony.median !== null;
  return (
    <section aria-labelledby="now">
      <SectionHeading id="now">{lives ? "Current level" : "Its last count"}</SectionHeading>
      {view.latest?.pair && <MadeOfTwo latest={view.latest} />}
      {lives && levels && (
        <div className="mt-3">
          <RateRule
            levels={levels}
            reading={known ? { median: colony.median ?? 0, low: colony.low ?? 0, high: colony.high ?? 0 } : null}
            label={`Colony ${colony.label}`}
            falls={view.scheme === "fall_phase"}
          />
        </div>
      )}
      {lives && view.latest && <Meaning meaning={view.latest} today={view.today} compact />}
      <ChangeBetweenCounts view={view} />
    </section>
  );
}

/** What the large figure is made of, where it is not the latest count's own. */
function MadeOfTwo({ latest }: { latest: NonNullable<View["latest"]> }) {
  if (!latest.pair) return null;
  const own = latest.count.median === null ? "" : ` The latest alone: ${rate(latest.count.median)}.`;
  return (
    <p className="mt-2 text-ink-2">
      Two counts taken as one: {latest.pair.mites} mites in about {Math.round(latest.pair.bees_mean ?? 0)} bees.{own}
    </p>
  );
}
