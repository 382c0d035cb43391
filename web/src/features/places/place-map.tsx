/** Where an apiary stands, tapped on the map: the others are shown, so that the new one finds its place among them. */
import { useQuery } from "@tanstack/react-query";
import type { MouseEvent } from "react";
import { landQuery, placesQuery } from "@/client/queries";
import { IslandGround, useGround, type Place } from "@/instruments/island-ground";
import { useWidth } from "@/ui/use-width";

const HEIGHT = 280;

export function PlaceMap({ place, onPlace }: { place: Place | null; onPlace: (place: Place) => void }) {
  const land = useQuery(landQuery);
  const view = useQuery(placesQuery());
  const [ref, width] = useWidth<HTMLDivElement>(440);
  const others = view.data?.places ?? [];
  const known = others.length > 0 ? others : place ? [place] : [];
  const { near, projection } = useGround(land.data ?? null, known, { width, height: HEIGHT }, 12);
  // Without a coast or another apiary there is nothing to tap on: the figures are typed.
  if (near.length === 0 && others.length < 2) return null;
  const at = place && projection([place.longitude, place.latitude]);
  const tapped = (event: MouseEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const found = projection.invert?.([event.clientX - box.left, event.clientY - box.top]);
    if (found) onPlace({ longitude: found[0], latitude: found[1] });
  };
  return (
    <div>
      <p className="mb-1 font-semibold">Tap where it stands</p>
      <div ref={ref} className="border border-line bg-paper">
        {/* The same place is typed in the fields below it: the map is for a finger or a pointer. */}
        <svg
          width={width}
          height={HEIGHT}
          className="block cursor-crosshair touch-manipulation"
          role="img"
          aria-label="Map: tap where the apiary stands"
          onClick={tapped}>
          <IslandGround near={near} projection={projection} />
          {others.map((one) => {
            const [x, y] = projection([one.longitude, one.latitude]) ?? [0, 0];
            return <circle key={one.id} cx={x} cy={y} r="3.5" fill="var(--ink-3)" />;
          })}
          {at && (
            <path
              d={`M${at[0]} ${at[1]}l-7 -16h14zM${at[0] - 10} ${at[1]}h20`}
              fill="var(--ink)"
              stroke="var(--ink)"
              strokeWidth="2"
            />
          )}
        </svg>
      </div>
    </div>
  );
}
