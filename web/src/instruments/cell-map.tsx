/**
 * The coarse map of a count week: cells, never apiaries. Shape and word beside colour; hatched where few were counted.
 */
import { geoCentroid, geoMercator, geoPath } from "d3-geo";
import { useMemo } from "react";
import type { Schemas } from "@/client/types";
import { useWidth } from "@/ui/use-width";
import { LevelMark } from "@/ui/level";
import { levelWord } from "@/wording/words";
import type { MapData } from "@/client/types";

type Cell = Schemas["CellLine"];
const HEIGHT = 420;
const FILL: Record<NonNullable<Cell["level"]>, string> = {
  clear: "var(--clear-wash)",
  watch: "var(--watch-wash)",
  act: "var(--act-wash)",
  urgent: "var(--act-wash)",
  unknown: "var(--line)",
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
  const near = useMemo(() => {
    const first = cells[0];
    return (land?.features ?? []).filter(
      (feature) => first === undefined || Math.abs(geoCentroid(feature)[1] - first.south) < 1,
    );
  }, [land, cells]);
  const projection = useMemo(() => {
    const corners: GeoJSON.Feature = {
      type: "Feature",
      properties: {},
      geometry: {
        type: "MultiPoint",
        coordinates: cells.flatMap((cell) => [
          [cell.west, cell.south],
          [cell.east, cell.north],
        ]),
      },
    };
    const coast = near.filter((feature) => feature.properties.kind === "coast");
    return geoMercator().fitExtent(
      [
        [12, 12],
        [width - 12, HEIGHT - 12],
      ],
      { type: "FeatureCollection", features: [...coast, corners] },
    );
  }, [near, cells, width]);
  const path = geoPath(projection);
  return (
    <div ref={ref} className="relative overflow-hidden border border-line bg-paper" style={{ height: HEIGHT }}>
      <svg width={width} height={HEIGHT} aria-hidden="true" className="block">
        <defs>
          <pattern id="cell-few" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0V8" stroke="var(--ink-3)" strokeWidth="1.4" />
          </pattern>
        </defs>
        {near
          .filter((feature) => feature.properties.kind === "coast")
          .map((feature, index) => (
            <path key={index} d={path(feature) ?? ""} fill="var(--sheet)" stroke="var(--ink-2)" strokeWidth="1.4" />
          ))}
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

function corners(cell: Cell, projection: ReturnType<typeof geoMercator>) {
  const [x1, y1] = projection([cell.west, cell.north]) ?? [0, 0];
  const [x2, y2] = projection([cell.east, cell.south]) ?? [0, 0];
  return { x: x1, y: y1, width: Math.max(0, x2 - x1), height: Math.max(0, y2 - y1) };
}
