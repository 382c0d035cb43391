/**
 * The rate rule as a row: every colony of an apiary a mark at its latest figure, the act level a notch. A mark too old
 * to say how the colony stands now is hatched; colonies without a figure stand behind the rule's end.
 */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { LevelMark } from "@/ui/level";
import { rate } from "@/ui/units";
import { LEVEL } from "@/wording/words";
import { FALL_TICKS, FALL_TOP, RATE_TICKS, RATE_TOP, rateShare } from "./scale";

type ColonyMark = Schemas["ColonyMark"];
const LANES = 3;
const LANE = 13;
/** Marks closer than this share of the rule stand over one another. */
const GAP = 0.055;

/** Each mark's share of the rule and its lane; a full pile lies in the last lane. */
function placed(colonies: ColonyMark[], top: number): { colony: ColonyMark; at: number; lane: number }[] {
  const ends = Array.from({ length: LANES }, () => -1);
  return [...colonies]
    .sort((a, b) => (a.rate ?? 0) - (b.rate ?? 0))
    .map((colony) => {
      const at = rateShare(colony.rate ?? 0, top);
      const free = ends.findIndex((end) => at - end >= GAP);
      const lane = free < 0 ? LANES - 1 : free;
      ends[lane] = at;
      return { colony, at, lane };
    });
}

export function RateRow({
  colonies,
  act,
  falls,
  ticks,
}: {
  colonies: ColonyMark[];
  act: number;
  falls: boolean;
  ticks: boolean;
}) {
  const scale = falls ? "mites_per_day" : "mites_per_100";
  const top = falls ? FALL_TOP : RATE_TOP;
  const known = colonies.filter((one) => one.rate !== null && one.scale === scale);
  const uncounted = colonies.filter((one) => one.rate === null).length;
  const others = colonies.length - known.length - uncounted;
  const percent = (share: number) => `${(100 * share).toFixed(2)}%`;
  const said = [
    `${falls ? "mites a day" : "mites per 100 bees"}, act at ${act}`,
    ...known.map(
      (one) => `${one.label} ${rate(one.rate ?? 0)}, ${LEVEL[one.level]}${one.old ? ", too old to say" : ""}`,
    ),
    others > 0 && `${others} counted on another scale`,
    uncounted > 0 && `${uncounted} never counted`,
  ].filter(Boolean);
  return (
    <div role="img" aria-label={said.join("; ")} className="flex items-end gap-2 pl-2 pr-1">
      <div className={clsx("relative h-11 flex-1 border-b border-line-2", ticks && "mb-5")}>
        <span className="absolute inset-y-0 w-0.5 bg-ink" style={{ left: percent(rateShare(act, top)) }} />
        {(falls ? FALL_TICKS : RATE_TICKS).map((tick) => (
          <span
            key={tick}
            className="absolute bottom-0 h-1.5 w-px bg-line-2"
            style={{ left: percent(rateShare(tick, top)) }}>
            {ticks && <span className="absolute left-0 top-2 -translate-x-1/2 text-xs text-ink-2">{tick}</span>}
          </span>
        ))}
        {placed(known, top).map(({ colony, at, lane }) => (
          <span
            key={colony.label}
            className="absolute -translate-x-1/2"
            style={{ left: percent(at), bottom: 2 + lane * LANE }}>
            <LevelMark level={colony.level} old={colony.old} size={13} />
          </span>
        ))}
      </div>
      <span className={clsx("w-12 shrink-0 text-sm text-ink-2", ticks && "mb-5")}>
        {uncounted > 0 && (
          <span className="inline-flex items-center gap-1">
            <LevelMark level="unknown" size={13} />
            {uncounted}
          </span>
        )}
        {others > 0 && <span title="counted on another scale"> +{others}</span>}
      </span>
    </div>
  );
}
