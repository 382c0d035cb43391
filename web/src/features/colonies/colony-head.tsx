/** The head of a colony's page: who it is, its figure with interval and level, whether it rises, and the next act. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { Term } from "@/features/help/term";
import { longDay, relativeDay, shortDay } from "@/ui/dates";
import { LEVEL_FIGURE, LEVEL_TEXT, LevelMark } from "@/ui/level";
import { chance, rate } from "@/ui/units";
import { doubling } from "@/wording/growth";
import { LEVEL_REASON, SCALE, SINCE_TREND, TREND, levelWord } from "@/wording/words";
import { NextAct } from "./next-act";
import { UndoChange } from "./undo-change";

type View = Schemas["ColonyView"];

const sentence = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);

export function ColonyHead({ view }: { view: View }) {
  return (
    <div
      className={clsx(
        "mt-1 grid gap-x-8 gap-y-4 border-b-2 border-ink pb-3",
        "desk:grid-cols-[minmax(0,12rem)_minmax(0,17rem)_minmax(0,1fr)_minmax(0,17rem)]",
      )}>
      <WhoItIs view={view} />
      <Figure view={view} />
      <Trend view={view} />
      <div className="border-l-4 border-course pl-3">
        <NextAct view={view} />
      </div>
    </div>
  );
}

function WhoItIs({ view: { colony, apiary, hold, today, undoable } }: { view: View }) {
  return (
    <div>
      <h1 className={colony.label.length > 8 ? "text-2xl" : "text-5xl"}>{colony.label}</h1>
      <p className="mt-1 text-ink-2">{apiary.keeper}</p>
      {hold && (
        <p className="mt-1 font-semibold text-act">
          On hold since {shortDay(hold.since, today)}: {hold.why}
        </p>
      )}
      <UndoChange colony={colony} change={undoable} />
      {!colony.is_living && (
        <p className="mt-1 font-semibold">
          {colony.state} {longDay(colony.state_since)}
        </p>
      )}
    </div>
  );
}

/** The figure of the colony, and of what it is made. */
function Figure({ view }: { view: View }) {
  const { colony, latest, today } = view;
  const unknown = (colony.level === "unknown" && colony.is_living) || colony.median === null;
  return (
    <div>
      <p className="flex items-baseline gap-2.5">
        <span className={clsx("figure text-5xl", LEVEL_FIGURE[colony.level])}>
          {unknown ? "?" : rate(colony.median ?? 0)}
        </span>
        <strong className={clsx("inline-flex items-center gap-1.5 text-lg", LEVEL_TEXT[colony.level])}>
          <LevelMark level={colony.level} size={18} />
          <Term id="level">{levelWord(colony.level, view.scheme)}</Term>
        </strong>
      </p>
      <p className="mt-1 text-ink-2">
        {colony.median === null ? (
          "never counted"
        ) : (
          <>
            {unknown && `${rate(colony.median)}, `}
            <strong className="text-ink">
              {rate(colony.low ?? 0)} to {rate(colony.high ?? 0)}
            </strong>{" "}
            {SCALE[colony.scale ?? "mites_per_100"]}, <Term id="interval">95 % interval</Term>
            {latest?.pair
              ? `, two counts taken as one: ${latest.pair.mites} mites`
              : colony.counted_on && `, ${relativeDay(colony.counted_on, today)}`}
          </>
        )}
      </p>
    </div>
  );
}

/** One verdict on where it goes, from the line through its counts; else why the level is what it is. */
function Trend({ view: { colony, trend, latest, today } }: { view: View }) {
  const why = colony.is_living ? LEVEL_REASON[colony.level_reason] : null;
  const change = latest?.trend;
  if (!trend && change && latest.trend_since)
    return (
      <div>
        <p className="text-lg font-bold leading-snug">
          {sentence(TREND[change.words])} since {shortDay(latest.trend_since, today)}
          {doubling(change)}.
        </p>
        <p className="mt-1 text-ink-2">
          Two counts, {chance(change.p_rose_cautious)} that it rose. {why && `Its level: ${why}.`}
        </p>
      </div>
    );
  if (!trend)
    return (
      <div>
        {colony.median !== null && colony.is_living && (
          <p className="text-lg font-bold leading-snug">
            Too few counts since the last treatment or split for a trend.
          </p>
        )}
        <p className="mt-1 text-ink-2">{why && `Its level: ${why}.`}</p>
      </div>
    );
  const { line } = trend;
  return (
    <div>
      <p className="text-lg font-bold leading-snug">
        {SINCE_TREND[line.words]} since {shortDay(line.first, today)}
        {doubling(line)}.
      </p>
      <p className="mt-1 text-ink-2">
        {line.counts} counts, {chance(line.p_rose)} that it rose. {why && `Its level: ${why}.`}
      </p>
    </div>
  );
}
