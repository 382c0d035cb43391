/** The land of apiaries: shipped outlines, no tiles. One file holds every island; the one around them is drawn. */
import { geoCentroid, geoMercator, geoPath, type GeoProjection } from "d3-geo";
import { useMemo } from "react";
import type { MapData } from "@/client/types";
import { meet, type Box } from "./map-labels";

export type Place = { latitude: number; longitude: number };
const LETTER = 6.5;
type Size = { width: number; height: number };

/** The land near some places, and the projection under which it and they fill a frame. */
export function useGround(land: MapData | null, places: Place[], { width, height }: Size, edge: number) {
  const near = useMemo(() => {
    const [here] = places;
    return (land?.features ?? []).filter(
      (feature) => here === undefined || Math.abs(geoCentroid(feature)[1] - here.latitude) < 1,
    );
  }, [land, places]);
  const projection = useMemo(() => {
    const points: GeoJSON.Feature = {
      type: "Feature",
      properties: {},
      geometry: { type: "MultiPoint", coordinates: places.map((one) => [one.longitude, one.latitude]) },
    };
    const coast = near.filter((feature) => feature.properties.kind === "coast");
    return geoMercator().fitExtent(
      [
        [edge, edge],
        [width - edge, height - edge],
      ],
      { type: "FeatureCollection" as const, features: coast.length ? [...coast, points] : [points] },
    );
  }, [near, places, width, height, edge]);
  return { near, projection };
}

/** The drawn land, in an `svg`; `plain`: the coast alone. A name that would lie on one of `taken` is left out. */
export function IslandGround({
  near,
  projection,
  plain = false,
  taken = [],
}: {
  near: MapData["features"];
  projection: GeoProjection;
  plain?: boolean;
  taken?: Box[];
}) {
  const path = geoPath(projection);
  const draw = (kind: string) => near.filter((feature) => feature.properties.kind === kind);
  return (
    <>
      {draw("coast").map((feature, index) => (
        <path key={index} d={path(feature) ?? ""} fill="var(--sheet)" stroke="var(--ink-2)" strokeWidth="1.4" />
      ))}
      {!plain && (
        <>
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
            const wide = (feature.properties.name ?? "").length * LETTER;
            const own = { left: x - wide / 2, top: y - 13, width: wide, height: 17 };
            if (taken.some((box) => meet(own, box))) return null;
            return (
              <text key={index} x={x} y={y} textAnchor="middle" fontSize="13" fontStyle="italic" fill="var(--ink-3)">
                {feature.properties.name}
              </text>
            );
          })}
        </>
      )}
    </>
  );
}
