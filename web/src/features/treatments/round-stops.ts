/** The stops of a treatment round. */
import type { Schemas } from "@/client/types";

export type Round = Schemas["TreatmentRoundView"];
export type Stop = Schemas["RoundStopView"];

/** Whether something is to be done at the hive itself: the remains are seen to at home. */
export const atHive = (stop: Stop) => stop.steps.some((name) => name !== "dispose");
