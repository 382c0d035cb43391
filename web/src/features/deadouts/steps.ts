/** The walk round and through a dead hive, from the outside in: each step by its name, and how it is done. */
import type { DeadStep } from "@/client/commands/deadouts";

type Step = { id: DeadStep; name: string; how: string };

export const STEPS: readonly Step[] = [
  {
    id: "shut",
    name: "Shut it",
    how:
      "Is it really dead? Put an ear to it, hold a glass to the entrance, tap. Then shut it against bees at " +
      "once: what is in it may be sick. Take photos from all sides before anything is moved, and throw " +
      "nothing away before the end.",
  },
  {
    id: "outside",
    name: "Outside",
    how: "Walk round it. Dead bees on the ground, streaks, tracks, holes, wasps, the entrance.",
  },
  {
    id: "floor",
    name: "Floor",
    how:
      "Look at the board before it is swept. 100 mL of loose dead bees are about 300, a litre about 3000. " +
      "Use a lens for mites.",
  },
  { id: "lid", name: "Lid", how: "Turn the lid over: drops, wet, mould." },
  {
    id: "cluster",
    name: "Cluster",
    how: "Where are the dead, in which box, over how many seams? Feel one: soft, or dry and brittle?",
  },
  {
    id: "queen",
    name: "Queen",
    how: "Look through all the dead bees for her. With fewer than 500 left nobody can say that she is missing.",
  },
  { id: "heads", name: "Heads in cells", how: "Rows of bees head first in empty cells; tongues stretched out." },
  { id: "stores", name: "Stores", how: "How much food is left, and how far was it from the dead cluster?" },
  {
    id: "brood",
    name: "Brood",
    how: "The last brood: its youngest stage, drone brood in worker cells, queen cells. It tells when care " + "ended.",
  },
  {
    id: "combs",
    name: "Combs",
    how:
      "Hold each comb with its top bar towards you and the light from the side: scale on the lower cell " +
      "walls, white dirt of mites on the roofs. Both faces of every comb, or it stays held.",
  },
  {
    id: "cells",
    name: "Ten cells",
    how: "Open ten sealed cells. Draw a match slowly through moist remains; wet dry ones for ten minutes " + "first.",
  },
  {
    id: "wash",
    name: "Wash",
    how:
      "Wash 100 to 300 dead bees and count the mites. Dry old bees read 20 to 50 % low: it is a scale of " +
      "its own, never a rate of living bees.",
  },
  {
    id: "record",
    name: "Record",
    how:
      "What this colony's own record says is filled in; say where it is wrong. Medicines of the last season " +
      "decide whether its honey may go to people.",
  },
];

export const stepName = (id: string): string => STEPS.find((one) => one.id === id)?.name ?? id;
