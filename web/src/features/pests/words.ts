/** Words for the codes of pests, entrances and traps. The compiler flags a code without words. */
import type { Schemas } from "@/client/types";

export const PEST_CAUTION: Record<Schemas["PestAnswer"]["cautions"][number], string> = {
  report_first: "not established here: report it to the authority first, keep specimens in alcohol",
  not_moved: "not moved while signs of brood disease are open or the apiary stands still",
  not_united: "not united or moved while signs of brood disease are open or the apiary stands still",
  weak_first: "a weak colony: ask what made it weak",
  strong_tolerate: "a strong colony bears this",
  disease_check: "look at the brood of those that robbed and of the robbed within a week",
  trace_robbers: "record which hives received white bees",
  guard_until_spring: "the guard comes off when pollen comes in",
  score_fell: "less than last time",
  score_rose: "more than last time",
  score_same: "as last time",
};

export const ENTRANCE_WARNING: Record<Schemas["ColonyPests"]["warnings"][number], string> = {
  narrow_and_hot: "narrow, and heat is forecast: it may overheat",
  narrow_and_strong: "too narrow for a strong colony: congestion, overheating",
  narrow_too_long: "narrow for more than three days",
  mesh_shut_too: "the mesh floor is shut as well: no air",
  course_wants_open: "the treatment in the hive wants the entrance open over its full width",
  guard_in_season: "the guard is still on: it knocks pollen down",
  no_guard_before_frost: "frost is near and no guard is on",
  shut_with_bees: "shut, and bees live in it",
};

export const DEVICE: Record<Schemas["EntranceInput"]["device"], string> = {
  open: "open",
  reducer: "reducer",
  guard: "mouse guard",
  screen: "robbing screen",
  mesh_box: "mesh box",
  shut: "shut",
};

export const TRAP: Record<Schemas["TrapInput"]["kind"], string> = {
  bar_trap: "oil trap between bars",
  floor_tray: "oil tray under the floor",
  cloth: "cloth on the bars",
  wasp_trap: "selective wasp trap",
};
