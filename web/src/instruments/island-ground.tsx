/** The land of apiaries: shipped outlines, no tiles. One file holds every island; the one around them is drawn. */
import { geoCentroid, geoMercator, geoPath, type GeoProjection } from "d3-geo";
import { useMemo } from "react";
import type { MapData } from "@/client/types";

export type Place = { latitude: number; longitude: number };
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

/** The drawn land, to stand in an `svg`; `plain`: the coast alone. */
export function IslandGround({
  near,
  projection,
  plain = false,
}: {
  near: MapData["features"];
  projection: GeoProjection;
  plain?: boolean;
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
