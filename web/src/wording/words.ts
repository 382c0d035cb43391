/** Words for the codes that the core returns. The compiler flags a code without words. */
import texts from "../../../src/redframe/wording/sentences.json";
import type { Level, Role, Schemas } from "@/client/types";

export const LEVEL: Record<Level, string> = {
  clear: "clear",
  watch: "watch",
  act: "act",
  urgent: "urgent",
  unknown: "unknown",
};

/** In a programme that observes, the three levels have words of their own. */
export function levelWord(level: Level, school: string | null): string {
  if (school !== "observe") return LEVEL[level];
  return { clear: "clear", watch: "noted", act: "flag to lead", urgent: "endangers neighbours", unknown: "unknown" }[
    level
  ];
}

/** The unit in which a school has its levels. */
export function unitOf(school: string | null): string {
  return school === "fall_phase" ? "mites a day" : "mites per 100 bees";
}

/** The same, short, behind a figure: "2 per 100 bees", "5 a day". */
export function perOf(school: string | null): string {
  return school === "fall_phase" ? "a day" : "per 100 bees";
}

/** What a figure of a scale is counted in, behind the figure. */
export const PER: Record<NonNullable<Schemas["Count"]["scale"]>, string> = {
  mites_per_100: "per 100 bees",
  mites_per_day: "a day",
  percent_of_cells: "% of drone cells",
};

export const SCALE: Record<NonNullable<Schemas["Count"]["scale"]>, string> = {
  mites_per_100: "mites per 100 bees",
  mites_per_day: "mites a day",
  percent_of_cells: "% of drone cells",
};

export const METHOD: Record<Schemas["Count"]["method"], string> = texts.words.method;

export const PHASE: Record<Schemas["PhaseBand"]["phase"], string> = texts.words.phase;

export const SCHEME: Record<Schemas["Judgement"]["scheme"], string> = {
  flat_2: "flat 2 in 100",
  flat_3: "flat 3 in 100",
  season_phase: "by season phase",
  fall_phase: "daily fall by season",
  any_mite: "any mite",
  observe: "observe only",
};

export const VERDICT: Record<Schemas["SuitabilityView"]["verdict"], string> = {
  allowed: "allowed",
  allowed_with_cautions: "with cautions",
  not_now: "not now",
  never_here: "never here",
};

/** What stands against placing an option on a day, short enough for its cell. */
export const OBSTACLE: Record<Schemas["OptionDay"]["obstacle"] & string, string> = {
  heat: "heat",
  cold: "cold",
  rain: "rain",
  no_forecast: "not known",
  season: "season",
  brood: "brood",
  queen: "queen",
  strength: "weak",
  supers: "supers",
  feed: "feed",
  course: "course",
  uses: "used up",
  rotation: "rotate",
  slow: "slow",
  level: "level",
  hold: "hold",
  permission: "no",
};

export const OPTION_GROUP: Record<Schemas["OptionDaysView"]["group"], string> = {
  any_brood: "reach mites under cappings",
  broodless: "need a colony without sealed brood",
  supporting: "support, no answer by themselves",
};

export const OUTCOME: Record<Schemas["CourseVerdict"]["word"], string> = {
  worked: "It worked",
  partly: "It worked partly",
  failed: "It failed",
  cannot_tell_yet: "Not yet known",
};

export const ROLE: Record<Role, string> = {
  administrator: "administrator",
  inspector: "inspector",
  mentor: "mentor",
  keeper: "keeper",
  read_only: "read-only",
};

export const ROLE_MAY: Record<Role, string> = {
  administrator: "Records everywhere, invites people, sets the policy.",
  inspector: "Records in every apiary of the association.",
  mentor: "Records in every apiary of the association.",
  keeper: "Sees and records in their own apiaries only.",
  read_only: "Sees every apiary, records nothing.",
};

export const COURSE_STATE: Record<Schemas["CourseView"]["state"], string> = {
  planned: "planned",
  under_way: "under way",
  awaiting_verification: "awaiting check count",
  awaiting_outcome: "outcome to confirm",
  verified_worked: "worked",
  verified_partly: "worked partly",
  verified_failed: "failed",
  verified_cannot_tell: "result not yet known",
  abandoned: "abandoned",
  given_earlier: "given earlier",
  withdrawn: "withdrawn: not given",
};

export const KNOWN_FROM: Record<Schemas["EarlierInput"]["known_from"], string> = texts.words.known_from;

export const REGISTER_FIELD: Record<Schemas["FieldChange"]["field"], string> = texts.words.register_field;

export const REGISTER_RESULT: Record<string, string> = texts.words.register_result;

export const ENTRY_KIND: Record<Schemas["RegisterEntry"]["kind"], string> = {
  line: "entered",
  added: "added",
  amended: "amended",
  void: "void",
  restored: "entered again",
};

export const BROOD_STOP: Record<Schemas["Stop"]["kind"], string> = {
  queen_caged: "Queen caged",
  queen_removed: "Queen gone since",
  swarm_left: "Swarm left",
  brood_out: "Brood taken out",
};

export const BROOD_SOURCE: Record<Schemas["Stop"]["source"], string> = {
  said: "as somebody recorded it",
  course: "by the course",
  split: "by the split",
  queenless: "found without a queen",
};

export const BROOD_EXPECTED: Record<string, string> = {
  last_worker_capped: "last worker brood capped",
  last_worker_emerges: "last worker emerges",
  last_drone_emerges: "last drone emerges",
  new_queen_emerges: "new queen emerges",
  first_eggs: "first eggs",
  new_brood_capped: "new brood capped",
  laying_workers_possible: "laying workers possible",
};

export const CAUSE: Record<Schemas["Cause"]["code"], string> = texts.words.cause;

export const CAUSE_TEST: Record<Schemas["Cause"]["code"], string> = texts.words.cause_test;

export const CAUSE_WEIGHT: Record<Schemas["Cause"]["weight"], string> = {
  likely: "likely",
  possible: "possible",
  unlikely: "unlikely",
  not_known: "not known",
};

export const NEXT_AFTER_FAILURE: Record<Schemas["WhyFailed"]["next_step"], string> = {
  count_again: "wash again, with bees counted; then decide.",
  give_it_right: "treat again, as it should have been, or with what suits the days ahead.",
  another_group: "treat with another group, and compare by counts.",
  treat_and_guard: "treat again, and have the neighbours counted on the same day.",
};

export const PROGRAMME: Record<Schemas["Programme"]["word"], string> = {
  enough: "enough",
  on_time: "in time",
  tight: "just in time",
  too_late: "too late for syrup",
  not_known: "stores not known",
};

export const INSTEAD: Record<Schemas["Programme"]["instead"][number], string> = {
  fondant: "fondant on the combs",
  combs_of_stores: "combs of stores from a colony that has enough and is not on hold",
  unite: "unite it with another, both counted and looked through",
  option_that_bears_feed: "a treatment that bears feed, so that both go on at once",
};

export const STORES_BY: Record<string, string> = { weighing: "weighed", hefting: "hefted", frames: "from the combs" };

export const LOT_STATE: Record<Schemas["LotView"]["state"], string> = {
  good: "good",
  expires_soon: "use soon",
  expired: "out of date",
  used_up: "used up",
  overdrawn: "more used than bought",
};

export const LOT_CHANGE: Record<Schemas["LotChangeDone"]["kind"], string> = {
  disposed: "disposed of",
  lost: "lost",
  mixed: "mixed",
  found: "found again",
};

export const END_KNOWN: Record<Schemas["EarlierInput"]["end"], string> = {
  known: "out on a day",
  not_known: "out, day not known",
  still_in: "still in the hive",
};

export const SAID_OUTCOME: Record<NonNullable<Schemas["EarlierInput"]["outcome"]>, string> = {
  worked: "worked",
  partly: "worked in part",
  failed: "failed",
};

type Figure = Schemas["ByLabel"]["figure"];

/** What a label may say otherwise than the catalogue, each with its unit. */
export const FIGURE: Record<Figure, string> = {
  dose_amount: "dose",
  dose_max_per_colony: "most per colony",
  applications: "doses",
  interval_days: "days between doses",
  stay_days: "days in the hive",
  withdrawal_days: "days until honey is clear",
  max_uses_per_year: "uses a year at most",
  retreat_days: "days until it may be used again",
  min_daily_max_c: "coldest daily maximum",
  max_daily_max_c: "hottest daily maximum",
  min_frames: "frames of bees at least",
  supers: "honey supers",
  feeding_during: "feeding during the course",
};

export const STEP_STATE: Record<Schemas["StepView"]["state"], string> = {
  pending: "later",
  ready: "can be done now",
  overdue: "overdue",
  waiting_for_weather: "waiting for weather",
  done: "done",
  done_late: "done late",
  skipped: "skipped",
  cancelled: "cancelled",
};

export const LEVEL_REASON: Record<Schemas["ColonyOverview"]["level_reason"], string> = {
  never_counted: "never counted",
  count: "from the latest count",
  held_one_step: "lower count: down one step at a time",
  threshold_changed: "the season's threshold fell",
  too_old: "the last count is too old",
  overdue: "over its threshold and not treated",
  cannot_show_clear: "this sample cannot show clear",
  none_found: "none found, which is not the same as none",
};

export const TREND: Record<Schemas["Growth"]["words"], string> = {
  really_rose: "really rose",
  probably_rose: "probably rose",
  no_clear_change: "no clear change",
  probably_fell: "probably fell",
  really_fell: "really fell",
};

/** The line through a colony's counts, before "since". */
export const SINCE_TREND: Record<Schemas["Growth"]["words"], string> = {
  really_rose: "Rising",
  probably_rose: "Probably rising",
  no_clear_change: "No clear change",
  probably_fell: "Probably falling",
  really_fell: "Falling",
};

export const PLACE_OF_BEES: Record<NonNullable<Schemas["RulerInput"]["place_of_bees"]>, string> = {
  brood_frame: "brood frame",
  other_brood_box: "brood box, other frame",
  super: "honey super",
  entrance: "entrance",
  unknown: "not known",
};

export const QUEEN_STATUS: Record<Schemas["Queen"]["status"], string> = {
  mated: "laying",
  virgin: "virgin",
  caged: "caged",
  queenless: "none",
  unknown: "not known",
};

/** What was changed of a colony, after "Undo". */
export const CHANGE_UNDONE: Record<Schemas["Change"]["kind"], string> = {
  merged_into: "the merger",
  split_from: "the split",
  started: "adding it",
  moved: "the move",
  state: "the change of state",
  renumbered: "the new label",
  held: "the hold",
  lifted: "the lifting",
  queen_given: "the new queen",
  queen_amended: "the queen’s change",
  boxes: "the change of boxes",
  frame_moved: "the frame’s move",
  note: "the note",
};

/** Groups of treatments by how they act. */
export const GROUP: Record<Schemas["CatalogueEntry"]["moa_group"], string> = {
  "ACID-F": "formic acid",
  "ACID-O": "oxalic acid",
  THYM: "thymol and plant oils",
  AMI: "amitraz",
  PYR: "pyrethroids",
  HOP: "hop acids",
  BIO: "no chemical",
};

export const SEASON: Record<Schemas["ApiaryOptions"]["season"], string> = {
  winter_cluster: "winter cluster",
  spring_build: "spring build-up",
  swarm: "swarm season",
  flow: "honey flow",
  post_harvest: "after harvest",
  autumn: "autumn",
};

export const WHY_NOT: Record<NonNullable<Schemas["CourseVerdict"]["why_not"]>, string> = {
  no_pre: "No count before the treatment: only what is left can be judged.",
  pre_too_old: "The count before is more than 14 days older than the start.",
  post_too_early: "The count after came too early: mites were still in cells.",
  post_too_late: "The count after came more than 35 days past the end: later mites cannot be separated.",
  too_few_bees: "Fewer than 100 bees in one of the samples.",
  not_sure: "The two counts leave it open.",
};

const STEP: Record<string, string> = {
  prepare: "Prepare",
  baseline_count: "Count before",
  close_supers_feeder: "Supers and feeder off",
  interim_check: "Interim check",
  remove: "Take it out",
  end: "Course ends",
  dispose: "Dispose of remains",
  verify: "Check count",
  close: "Confirm the outcome",
};

/** "Place dose 2 of 2", "Check count"; a course without a product has nothing to place. */
export function stepName(name: string, { placings, chemical }: { placings: number; chemical: boolean }): string {
  if (name.startsWith("place_")) {
    if (!chemical) return placings > 1 ? `Round ${name.slice(6)} of ${placings}` : "Do it at the hive";
    return placings > 1 ? `Place dose ${name.slice(6)} of ${placings}` : "Place the dose";
  }
  return STEP[name] ?? name;
}

type OfCourse = { option: { applications: number; chemical: boolean } };

/** A step of a course by its name. */
export const courseStep = (name: string, { option }: OfCourse): string =>
  stepName(name, { placings: option.applications, chemical: option.chemical });

/** The advice that a count leads to. */
export const ADVICE: Record<Schemas["Judgement"]["advice"], string> = {
  treat: "Treat now.",
  second_sample: "Take a second sample.",
  come_back: "Come back later.",
  notify: "Report it: a mite was found.",
  flag_lead: "Flag it to the programme lead.",
  endangers_neighbours: "It endangers its neighbours.",
};

/** Where an apiary stands among all of a count week; quarters count from 1. */
export const QUARTER = ["", "lowest quarter", "second quarter", "third quarter", "highest quarter"];

/** A sentence that begins a line. */
export const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1);

export function colonies(count: number): string {
  return count === 1 ? "1 colony" : `${count} colonies`;
}

export const COVER = {
  capped: "sealed brood",
  open: "open brood",
  eggs: "eggs",
  drone: "drone",
  honey: "honey",
  nectar: "nectar",
  pollen: "pollen",
  bees: "bees",
} as const;

export const COMB_STATE: Record<Schemas["FrameRecord"]["comb"][number], string> = {
  new: "new",
  drawn: "drawn",
  old: "old",
  damaged: "damaged",
  foundation: "foundation",
  mould: "mould",
};

export const CELL_CONTENT: Record<Schemas["QueenCells"]["content"], string> = {
  cup: "empty cups",
  egg: "cups with an egg",
  larva: "cells with a larva",
  capped: "sealed cells",
  emerged: "hatched cells",
  torn: "cells torn at the side",
};

export const FLOOR: Record<Schemas["Hive"]["floor"], string> = {
  solid: "solid floor",
  mesh: "mesh floor",
  mesh_with_board: "mesh floor with board",
};

export const BOX_PURPOSE: Record<Schemas["BoxInput"]["purpose"], string> = {
  brood: "brood box",
  super: "super",
  eke: "eke",
  excluder: "excluder",
  feeder: "feeder",
};

export const EXPECTED: Record<Schemas["ExpectedOn"]["event"], string> = {
  new_queen_emerges: "new queen emerges",
  first_eggs: "first eggs",
  first_cell_sealed: "first cell sealed: it may leave",
};

export const COLONY_STATE: Record<NonNullable<Schemas["SearchHit"]["state"]>, string> = {
  alive: "alive",
  queenless: "queenless",
  dead: "dead",
  merged: "merged",
  gone: "gone",
};

export const FATE: Record<Schemas["FateJudged"]["fate"], string> = texts.words.fate;
export const FATE_WHY: Record<Schemas["FateJudged"]["reasons"][number], string> = texts.words.fate_why;
export const BOUND: Record<Schemas["Bound"]["code"], string> = texts.words.bound;
export const BROOD_TOLD: Record<Schemas["BroodTold"]["code"], string> = texts.words.brood_told;
export const NOT_ON_RECORD: Record<Schemas["ReadBack"]["missing"][number], string> = texts.words.not_on_record;
export const TREATED_IN_TIME: Record<string, string> = texts.words.treated_in_time;
export const SIZE_GOING_IN: Record<string, string> = texts.words.size_going_in;
