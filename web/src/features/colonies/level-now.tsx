/** The level of a colony: its figure with the interval, what it is made of, and how it stands on the rule. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { Meaning } from "@/features/sampling/meaning";
import { RateRule } from "@/instruments/rate-rule";
import { daysBetween, shortDay } from "@/ui/dates";
import { LEVEL_FIGURE, LevelMark } from "@/ui/level";
import { SectionHeading } from "@/ui/page";
import { rate } from "@/ui/units";
import { LEVEL_REASON, SCALE, levelWord } from "@/wording/words";
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
      <div className="mt-3 flex items-end gap-4">
        <LevelMark level={colony.level} size={30} />
        <span className={clsx("figure text-6xl", LEVEL_FIGURE[colony.level])}>
          {(colony.level === "unknown" && lives) || colony.median === null ? "?" : rate(colony.median)}
        </span>
        <FigureLine view={view} />
      </div>
      {view.latest?.pair && <MadeOfTwo latest={view.latest} />}
      {lives && (
        <p className="mt-2">
          <strong>{levelWord(colony.level, view.scheme)}</strong>: {LEVEL_REASON[colony.level_reason] ?? ""}
          {colony.counted_on && `, counted ${daysBetween(colony.counted_on, view.today)} days ago`}.
        </p>
      )}
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

/** The unit, the day where it is not known any more, and the interval. */
function FigureLine({ view: { colony, today } }: { view: View }) {
  if (colony.median === null) return <p className="pb-1 text-ink-2">never counted</p>;
  const then =
    colony.level === "unknown"
      ? ` on ${shortDay(colony.counted_on ?? "", today)}${colony.is_living ? `: ${rate(colony.median)}` : ""}`
      : "";
  return (
    <p className="pb-1 text-ink-2">
      {SCALE[colony.scale ?? "mites_per_100"]}
      {then}
      <br />
      <strong className="text-ink">
        {rate(colony.low ?? 0)} to {rate(colony.high ?? 0)}
      </strong>
      , 95 % interval
    </p>
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
