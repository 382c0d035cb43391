/** The stops of a round: which colony is next, and which are suspects. */
import type { Schemas } from "@/client/types";

export type Stop = Schemas["RoundStop"];

export const suspect = (stop: Stop): boolean => stop.hold !== null || stop.suspicious.length > 0;

/** The colony that a round goes on with: one that is open already, else the first not opened today. */
export const nextStop = (stops: Stop[], today: string): Stop | undefined =>
  stops.find((one) => one.draft !== null) ?? stops.find((one) => one.last_visit !== today);
