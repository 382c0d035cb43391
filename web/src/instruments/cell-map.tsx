/**
 * The coarse map of a count week: cells, never apiaries. Shape and word beside colour; hatched where few were counted.
 */
import type { GeoProjection } from "d3-geo";
import { useMemo } from "react";
import type { Schemas } from "@/client/types";
import { useWidth } from "@/ui/use-width";
import { LevelMark } from "@/ui/level";
import { levelWord } from "@/wording/words";
import type { MapData } from "@/client/types";
import { IslandGround, useGround } from "./island-ground";

type Cell = Schemas["CellLine"];
const HEIGHT = 420;
const FILL: Record<NonNullable<Cell["level"]>, string> = {
  clear: "var(--clear-wash)",
  watch: "var(--watch-wash)",
  act: "var(--line)",
  urgent: "var(--act-wash)",
  unknown: "var(--paper)",
};

export function CellMap({
  land,
  cells,
  chosen,
  onChoose,
}: {
  land: MapData | null;
  cells: Cell[];
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const [ref, width] = useWidth<HTMLDivElement>(560);
  const places = useMemo(
    () =>
      cells.flatMap((cell) => [
        { latitude: cell.south, longitude: cell.west },
        { latitude: cell.north, longitude: cell.east },
      ]),
    [cells],
  );
  const { near, projection } = useGround(land, places, { width, height: HEIGHT }, 12);
  return (
    <div ref={ref} className="relative overflow-hidden border border-line bg-paper" style={{ height: HEIGHT }}>
      <svg width={width} height={HEIGHT} aria-hidden="true" className="block">
        <defs>
          <pattern id="cell-few" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0V8" stroke="var(--ink-3)" strokeWidth="1.4" />
          </pattern>
        </defs>
        <IslandGround near={near} projection={projection} plain />
        {cells.map((cell) => {
          const box = corners(cell, projection);
          return (
            <g key={cell.id}>
              <rect
                {...box}
                fill={cell.level ? FILL[cell.level] : "var(--line)"}
                opacity="0.85"
                stroke={cell.id === chosen ? "var(--ink)" : "var(--ink-3)"}
                strokeWidth={cell.id === chosen ? 3 : 1}
              />
              {cell.few && <rect {...box} fill="url(#cell-few)" opacity="0.5" />}
            </g>
          );
        })}
      </svg>
      {cells.map((cell) => {
        const box = corners(cell, projection);
        const counted = cell.level ? `${cell.over} of ${cell.counted} over` : "no counts";
        return (
          <button
            key={cell.id}
            data-mark
            type="button"
            aria-pressed={cell.id === chosen}
            onClick={() => onChoose(cell.id)}
            aria-label={
              `${counted}${cell.level ? `: ${levelWord(cell.level, null)}` : ""}; ${cell.counted} of ` +
              `${cell.colonies} colonies of the cell counted`
            }
            className="absolute flex flex-col items-center justify-center gap-0.5 text-sm font-semibold"
            style={{ left: box.x, top: box.y, width: box.width, height: box.height }}>
            {cell.level ? <LevelMark level={cell.level} size={18} /> : null}
            <span>{counted}</span>
          </button>
        );
      })}
    </div>
  );
}

function corners(cell: Cell, projection: GeoProjection) {
  const [x1, y1] = projection([cell.west, cell.north]) ?? [0, 0];
  const [x2, y2] = projection([cell.east, cell.south]) ?? [0, 0];
  return { x: x1, y: y1, width: Math.max(0, x2 - x1), height: Math.max(0, y2 - y1) };
}
