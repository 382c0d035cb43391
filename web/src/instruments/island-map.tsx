/** Apiaries on a drawn map: shipped outlines, no tiles. Each apiary is a button; its mark is its worst level. */
import { clsx } from "clsx";
import { geoCentroid, geoMercator, geoPath } from "d3-geo";
import { useMemo } from "react";
import type { Level, Schemas } from "@/client/types";
import { useWidth } from "@/ui/use-width";
import { LevelMark } from "@/ui/level";
import { LEVEL, colonies } from "@/wording/words";

export type MapFeature = GeoJSON.Feature<GeoJSON.Geometry, { kind: string; name?: string }>;
import type { MapData } from "@/client/types";

type Apiary = Schemas["ApiaryRow"];
const HEIGHT = 520;

/** Whether another apiary's mark lies where this one's name would stand. */
function crowded(points: [number, number][], own: [number, number]): boolean {
  return points.some(([x, y]) => x > own[0] + 4 && x < own[0] + 118 && Math.abs(y - own[1]) < 17);
}

export function IslandMap({
  land,
  apiaries,
  chosen,
  onChoose,
}: {
  land: MapData | null;
  apiaries: Apiary[];
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const [ref, width] = useWidth<HTMLDivElement>(640);
  // One file holds every island; the one on which the apiaries lie is drawn.
  const near = useMemo(() => {
    const here = apiaries[0];
    return (land?.features ?? []).filter(
      (feature) => here === undefined || Math.abs(geoCentroid(feature)[1] - here.latitude) < 1,
    );
  }, [land, apiaries]);
  const projection = useMemo(() => {
    const points: GeoJSON.Feature = {
      type: "Feature",
      properties: {},
      geometry: { type: "MultiPoint", coordinates: apiaries.map((one) => [one.longitude, one.latitude]) },
    };
    const coast = near.filter((feature) => feature.properties.kind === "coast");
    const frame = { type: "FeatureCollection" as const, features: coast.length ? [...coast, points] : [points] };
    const edge = width >= 560 ? 24 : 8;
    return geoMercator().fitExtent(
      [
        [edge, edge],
        [width - edge, HEIGHT - edge],
      ],
      frame,
    );
  }, [near, apiaries, width]);
  const path = geoPath(projection);
  const draw = (kind: string) => near.filter((feature) => feature.properties.kind === kind);
  const points = apiaries.map((one): [number, number] => projection([one.longitude, one.latitude]) ?? [0, 0]);
  return (
    <div ref={ref} className="relative overflow-hidden border border-line bg-paper" style={{ height: HEIGHT }}>
      <svg width={width} height={HEIGHT} aria-hidden="true" className="block">
        {draw("coast").map((feature, index) => (
          <path key={index} d={path(feature) ?? ""} fill="var(--sheet)" stroke="var(--ink-2)" strokeWidth="1.4" />
        ))}
        {draw("wood").map((feature, index) => (
          <path key={index} d={path(feature) ?? ""} fill="var(--clear-wash)" />
        ))}
        {draw("water").map((feature, index) => (
          <path
            key={index}
            d={path(feature) ?? ""}
            fill="var(--course-wash)"
            stroke="var(--course)"
            strokeWidth="0.7"
          />
        ))}
        {draw("road").map((feature, index) => (
          <path key={index} d={path(feature) ?? ""} fill="none" stroke="var(--line-2)" strokeWidth="1.2" />
        ))}
        {draw("place").map((feature, index) => {
          const [x, y] = path.centroid(feature);
          return (
            <text key={index} x={x} y={y} textAnchor="middle" fontSize="13" fontStyle="italic" fill="var(--ink-3)">
              {feature.properties.name}
            </text>
          );
        })}
      </svg>
      {apiaries.map((apiary) => {
        const point = projection([apiary.longitude, apiary.latitude]);
        if (point === null) return null;
        const level: Level = apiary.worst ?? "unknown";
        const named = width >= 560;
        const right = point[0] < width - 130 && !crowded(points, point);
        return (
          <button
            key={apiary.id}
            data-mark
            type="button"
            aria-label={`${apiary.name}: ${LEVEL[level]}, ${colonies(apiary.colonies)}`}
            aria-pressed={chosen === apiary.id}
            onClick={() => onChoose(apiary.id)}
            className={clsx(
              "absolute flex -translate-y-1/2 items-center justify-center gap-1 rounded-[2px] text-sm",
              "font-semibold",
              named ? "min-h-8 px-1" : "h-6 w-6",
              !right && "-translate-x-full flex-row-reverse",
              chosen === apiary.id ? "z-10 bg-ink text-sheet" : "map-name text-ink hover:bg-sheet",
            )}
            style={{ left: point[0] + (right ? -12 : 12), top: point[1] }}>
            <span className={chosen === apiary.id ? "bg-sheet p-px" : ""}>
              <LevelMark level={level} size={16} />
            </span>
            {named && <span className="max-w-56 truncate">{apiary.name}</span>}
          </button>
        );
      })}
    </div>
  );
}
