/** Marks on a crowded map: one mark stands for those it would lie on, the one that asks for attention most on top. */
import type { Level } from "@/client/types";
import type { Spot } from "./map-labels";

/** With fewer marks than this each keeps its own, however close they stand. */
const CROWD = 80;
const ATTENTION: Level[] = ["urgent", "act", "unknown", "watch", "clear"];

export type Gathered<Place> = { place: Place; spot: Spot; others: number };

export function gather<Place extends { id: string; worst: Level | null }>(
  places: Place[],
  spots: Spot[],
  mark: number,
  chosen: string | null,
): Gathered<Place>[] {
  const all = places.flatMap((place, index) => {
    const spot = spots[index];
    return spot ? [{ place, spot, others: 0 }] : [];
  });
  if (all.length <= CROWD) return all;
  const pressing = ({ place }: Gathered<Place>) =>
    place.id === chosen ? -1 : place.worst ? ATTENTION.indexOf(place.worst) : ATTENTION.length;
  const leads: Gathered<Place>[] = [];
  for (const one of all.sort((a, b) => pressing(a) - pressing(b))) {
    const lead = leads.find(({ spot }) => Math.abs(spot.x - one.spot.x) < mark && Math.abs(spot.y - one.spot.y) < mark);
    if (lead) lead.others += 1;
    else leads.push(one);
  }
  return leads;
}
