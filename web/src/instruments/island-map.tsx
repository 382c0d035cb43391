/**
 * Apiaries on a drawn map. Each is a button; its mark is the level that needs attention first, hatched through where
 * what is known is old, and under its name stands its highest figure and the age of the knowledge.
 */
import { clsx } from "clsx";
import { useMemo } from "react";
import type { Level, MapData, Schemas } from "@/client/types";
import { daysBetween } from "@/ui/dates";
import { LevelMark } from "@/ui/level";
import { rate } from "@/ui/units";
import { useDesk } from "@/ui/use-desk";
import { useWidth } from "@/ui/use-width";
import { LEVEL, colonies } from "@/wording/words";
import { IslandGround, useGround } from "./island-ground";
import { gather, type Gathered } from "./map-gather";
import { placeLabels } from "./map-labels";

type Apiary = Schemas["ApiaryPlace"];

const HEIGHT = 520;
/** Two lines of a label and a letter of it, px: text is larger in the field. */
const DESK_TEXT = { high: 34, letter: 7.6 };
const FIELD_TEXT = { high: 40, letter: 8.6 };
const MOST_LETTERS = 18;
const MARK = 26;

type Props = {
  land: MapData | null;
  apiaries: Apiary[];
  today: string;
  chosen: string | null;
  onChoose: (id: string) => void;
};

export function IslandMap({ land, apiaries, today, chosen, onChoose }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(640);
  const { near, projection } = useGround(land, apiaries, { width, height: HEIGHT }, width >= 560 ? 24 : 12);
  const text = useDesk() ? DESK_TEXT : FIELD_TEXT;
  const shown = useMemo(() => {
    const spots = apiaries.map((one) => {
      const [x, y] = projection([one.longitude, one.latitude]) ?? [0, 0];
      return { x, y };
    });
    return gather(apiaries, spots, MARK, chosen);
  }, [apiaries, projection, chosen]);
  const labels = useMemo(() => {
    const widths = shown.map(
      (one) => Math.max(short(one.place.name).length, knownOf(one, today).length) * text.letter + 6,
    );
    return placeLabels(
      shown.map((one) => one.spot),
      widths,
      text.high,
      MARK,
      { width, height: HEIGHT },
    );
  }, [shown, today, width, text]);
  return (
    <div ref={ref} className="relative overflow-hidden border border-line bg-paper" style={{ height: HEIGHT }}>
      <svg width={width} height={HEIGHT} aria-hidden="true" className="block">
        <IslandGround near={near} projection={projection} taken={labels.flatMap((label) => label ?? [])} />
        {labels.map((label, index) => {
          const line = label?.leader;
          return (
            line && (
              <path key={index} d={`M${line[0].x} ${line[0].y}L${line[1].x} ${line[1].y}`} stroke="var(--ink-2)" />
            )
          );
        })}
      </svg>
      {shown.map((one, index) => {
        const { place: apiary, spot } = one;
        const label = labels[index];
        const level: Level = apiary.worst ?? "unknown";
        const isChosen = chosen === apiary.id;
        return (
          <button
            key={apiary.id}
            data-mark
            type="button"
            aria-pressed={isChosen}
            onClick={() => onChoose(apiary.id)}
            className={clsx(
              "absolute flex items-center justify-center rounded-[2px]",
              isChosen ? "z-10 bg-ink" : "hover:bg-sheet",
            )}
            style={{ left: spot.x - MARK / 2, top: spot.y - MARK / 2, width: MARK, height: MARK }}>
            <span className={isChosen ? "bg-sheet p-px" : ""}>
              <LevelMark level={level} old={apiary.old} size={16} />
            </span>
            <span className="sr-only">
              {`${apiary.name}: ${LEVEL[level]}, ${colonies(apiary.colonies)}. `}
              {!label && knownOf(one, today)}
            </span>
            {label && (
              <span
                className={clsx(
                  "absolute whitespace-nowrap text-sm leading-[1.1] font-semibold",
                  isChosen ? "bg-ink text-sheet" : "map-name text-ink",
                  label.left + label.width / 2 < spot.x - MARK / 2 ? "text-right" : "text-left",
                )}
                style={{
                  left: label.left - spot.x + MARK / 2,
                  top: label.top - spot.y + MARK / 2,
                  width: label.width,
                }}>
                {short(apiary.name)}
                <span className="block text-xs font-normal">{knownOf(one, today)}</span>
              </span>
            )}
          </button>
        );
      })}
    </div>
  );
}

/** A name that the map has room for. */
const short = (name: string) => (name.length > MOST_LETTERS ? `${name.slice(0, MOST_LETTERS - 1).trimEnd()}…` : name);

/** Severity and age in few words: the highest figure, and how many days ago the oldest of the latest counts was; how
 * many more apiaries the mark stands for. */
function knownOf({ place, others }: Gathered<Apiary>, today: string): string {
  const more = others > 0 ? `; ${others} more here` : "";
  if (place.colonies === 0) return `empty${more}`;
  if (place.oldest_count_on === null) return `not counted${more}`;
  const age = `${daysBetween(place.oldest_count_on, today)} d`;
  return (place.highest === null ? age : `${rate(place.highest)}, ${age}`) + more;
}
