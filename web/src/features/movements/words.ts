/** What can come or go, in words. */
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";

export const KIND: Record<Schemas["Leg"]["kind"], string> = {
  brood_frame: "brood comb",
  honey_frame: "comb with food",
  drawn_comb: "comb",
  bees: "bees shaken",
  queen: "queen",
  queen_cell: "queen cell",
  swarm: "swarm",
  package: "package of bees",
  equipment: "hive parts or gear",
  honey_fed: "honey fed",
  pollen_fed: "pollen fed",
  extractor: "shared extractor",
  tools: "tools",
  wax: "wax",
  merge: "merged",
  split: "split",
  robbing: "robbing",
  same_apiary: "stood together",
  transfer: "put in",
  sale: "colony sold",
  purchase: "colony bought",
  loan: "colony lent",
};

export const CERTAINTY: Record<Schemas["Leg"]["certainty"], string> = {
  seen: "seen",
  told: "told",
  inferred: "gathered by rule",
};

/** "1 May", or "between 1 May and 9 May" where the day is not known. */
export const daysSaid = (earliest: string, latest: string, today?: string): string =>
  earliest === latest ? shortDay(latest, today) : `between ${shortDay(earliest, today)} and ${shortDay(latest, today)}`;
