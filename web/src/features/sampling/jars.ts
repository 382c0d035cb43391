/**
 * The counts on the bench: pure changes of state, kept on the device at every tap. A jar holds shakes, a board squares,
 * drone brood cells; all of them are tallied mark by mark, and one step back undoes the last mark.
 */
import type { CountBody } from "@/client/commands/queued";
import type { Schemas } from "@/client/types";
import { notAfterNow } from "@/ui/clock";
import { asReadFrom, squares, type Reading } from "./picture";

export type Method = Schemas["Count"]["method"];
export type Measure = Schemas["JarInput"]["bees_known_by"];
export type Answer = Schemas["BoardInput"]["cleaned"];
/** What became of a count: still open, on its way, refused with a reason, or recorded. */
export type CountState = { state: "open" | "queued" | "sending" | "refused" | "recorded"; why: string };

export type Jar = {
  id: string;
  colonyId: string;
  label: string;
  method: Method;
  /** Mites of each shake of a jar, or of each square of a board. */
  shakes: number[];
  done: string[];
  knownBy: Measure;
  bees: number | null;
  volumeMl: number | null;
  massG: number | null;
  place: NonNullable<Schemas["RulerInput"]["place_of_bees"]>;
  brood: Schemas["Count"]["brood_state"];
  queen: Answer;
  /** A timer that runs: the rest of sugared bees, or the minute of a wash. */
  timer: string | null;
  restedS: number | null;
  wet: Answer;
  /** When the board was put in; with the id of the board where it was put in from here. */
  placedAt: string | null;
  boardId: string | null;
  squaresInAll: number;
  /** The picture that the board is read from; open while its marks are being decided. */
  picture: Reading | null;
  pictureOpen: boolean;
  cleaned: Answer;
  greased: Answer;
  ants: Answer;
  opened: number;
  infested: number;
  cellMites: number | null;
  patches: number;
  seen: boolean | null;
  /** Chosen because it was likely to be over or to tell most: no part of the apiary's mean. */
  targeted: boolean;
  takenAt: string | null;
  /** Counted a second time today, as the person said. */
  again: boolean;
  /** Given to be sent: it is open again when it is changed, and recorded when the server has it. */
  submitted: boolean;
  recorded: boolean;
};

export type SetUp = Pick<
  Jar,
  "method" | "knownBy" | "bees" | "volumeMl" | "massG" | "place" | "brood" | "queen" | "squaresInAll" | "patches"
>;

export const REST_S = 120;
export const WASH_S = 60;
export const MOST_SHAKES = 8;

export const USUAL: SetUp = {
  method: "wash",
  knownBy: "volume_level",
  bees: null,
  volumeMl: 120,
  massG: null,
  place: "brood_frame",
  brood: "open_and_capped",
  queen: "not_looked",
  squaresInAll: 1,
  patches: 2,
};

export function newJar(colonyId: string, label: string, usual: Partial<SetUp>): Jar {
  return {
    id: crypto.randomUUID(),
    colonyId,
    label,
    shakes: [0],
    done: [],
    ...USUAL,
    ...usual,
    queen: "not_looked",
    timer: null,
    restedS: null,
    picture: null,
    pictureOpen: false,
    wet: "not_looked",
    placedAt: null,
    boardId: null,
    cleaned: "not_looked",
    greased: "not_looked",
    ants: "not_looked",
    opened: 0,
    infested: 0,
    cellMites: null,
    seen: null,
    takenAt: null,
    again: false,
    targeted: false,
    submitted: false,
    recorded: false,
  };
}

export const inJar = (method: Method): boolean => method === "wash" || method === "sugar" || method === "co2";
export const onBoard = (method: Method): boolean => method === "board" || method === "board_after_treatment";
export const mitesIn = (jar: Jar): number =>
  jar.method === "drone_brood" ? jar.infested : jar.shakes.reduce((sum, one) => sum + one, 0);
/** Whether anything has been counted yet. */
export const begun = (jar: Jar): boolean =>
  mitesIn(jar) > 0 || jar.shakes.length > 1 || jar.opened > 0 || jar.seen !== null;

/** One mark: a mite of the present shake or square. The count's time is that of its first mark; a rest ends with it. */
export function addMite(jar: Jar, now: string): Jar {
  const shakes = [...jar.shakes];
  shakes[shakes.length - 1] = (shakes.at(-1) ?? 0) + 1;
  return { ...restEnds(jar, now), shakes, done: [...jar.done, "mite"].slice(-400), takenAt: jar.takenAt ?? now };
}

/** The next shake of a jar, eight at the most, or the next square of a board. */
export function nextShake(jar: Jar, now: string): Jar {
  const most = onBoard(jar.method) ? jar.squaresInAll : jar.method === "wash" ? MOST_SHAKES : 1;
  if (jar.shakes.length >= most) return jar;
  return {
    ...restEnds(jar, now),
    shakes: [...jar.shakes, 0],
    done: [...jar.done, "shake"],
    takenAt: jar.takenAt ?? now,
  };
}

/** A drone cell opened: free, or infested; or one more mite in the last infested one. */
export function addCell(jar: Jar, what: "free" | "infested" | "another", now: string): Jar {
  const done = [...jar.done, what].slice(-400);
  const takenAt = jar.takenAt ?? now;
  if (what === "another")
    return jar.infested === 0 ? jar : { ...jar, cellMites: (jar.cellMites ?? jar.infested) + 1, done, takenAt };
  const infested = jar.infested + (what === "infested" ? 1 : 0);
  return {
    ...jar,
    opened: jar.opened + 1,
    infested,
    cellMites: what === "infested" && jar.cellMites !== null ? jar.cellMites + 1 : jar.cellMites,
    done,
    takenAt,
  };
}

/** One step back: the last mite or cell, or the shake or square that was just begun. */
export function oneBack(jar: Jar): Jar {
  if (jar.method === "drone_brood") return cellBack(jar);
  const last = jar.shakes.at(-1) ?? 0;
  if (last > 0) return { ...jar, shakes: [...jar.shakes.slice(0, -1), last - 1], done: jar.done.slice(0, -1) };
  if (jar.shakes.length > 1) return { ...jar, shakes: jar.shakes.slice(0, -1), done: jar.done.slice(0, -1) };
  return jar;
}

function cellBack(jar: Jar): Jar {
  const last = jar.done.at(-1);
  const done = jar.done.slice(0, -1);
  if (last === "another") {
    const mites = (jar.cellMites ?? jar.infested) - 1;
    return { ...jar, cellMites: mites > jar.infested ? mites : null, done };
  }
  if (last === "infested")
    return {
      ...jar,
      opened: jar.opened - 1,
      infested: jar.infested - 1,
      cellMites: jar.cellMites === null ? null : jar.cellMites - 1,
      done,
    };
  return last === "free" ? { ...jar, opened: jar.opened - 1, done } : jar;
}

export function startTimer(jar: Jar, now: string): Jar {
  return { ...jar, timer: now, restedS: null };
}

/** The end of a rest, as long as it was; a wash's minute is not kept. */
export function restEnds(jar: Jar, now: string): Jar {
  if (jar.timer === null) return jar;
  const rested = Math.min(7200, Math.max(0, Math.round((Date.parse(now) - Date.parse(jar.timer)) / 1000)));
  return { ...jar, timer: null, restedS: jar.method === "sugar" ? rested : null };
}

/** Seconds still to go on a running timer, 0 when it is over; null where none runs. */
export function secondsLeft(jar: Jar, now: string): number | null {
  if (jar.timer === null) return null;
  const whole = jar.method === "sugar" ? REST_S : WASH_S;
  return Math.max(0, Math.ceil(whole - (Date.parse(now) - Date.parse(jar.timer)) / 1000));
}

/** The squares of a picture taken as the count; its marks go with it. */
export function takePicture(jar: Jar, now: string): Jar {
  if (jar.picture === null) return jar;
  return {
    ...jar,
    pictureOpen: false,
    shakes: squares(jar.picture),
    squaresInAll: jar.picture.columns * jar.picture.rows,
    done: [],
    takenAt: jar.takenAt ?? now,
  };
}

/** Days that a board has lain until now, or until it was read. */
export function boardDays(jar: Jar, now: string): number | null {
  return jar.placedAt === null ? null : (Date.parse(jar.takenAt ?? now) - Date.parse(jar.placedAt)) / 86_400_000;
}

/** What is sent to the server of a count. */
export function asCount(jar: Jar): CountBody {
  const common = {
    id: jar.id,
    colony_id: jar.colonyId,
    taken_at: notAfterNow(jar.takenAt),
    brood_state: jar.brood,
    targeted: jar.targeted,
    note: "",
  };
  if (jar.method === "drone_brood") {
    return {
      ...common,
      method: jar.method,
      cells_opened: jar.opened,
      cells_infested: jar.infested,
      mites_in_cells: jar.cellMites,
      patches: jar.patches,
    };
  }
  if (jar.method === "look") return { ...common, method: jar.method, mites_seen: jar.seen ?? false };
  if (jar.method === "board" || jar.method === "board_after_treatment") {
    return {
      ...common,
      method: jar.method,
      placed_at: jar.placedAt ?? common.taken_at,
      squares: jar.shakes,
      squares_in_all: jar.squaresInAll,
      cleaned: jar.cleaned,
      greased: jar.greased,
      ants: jar.ants,
      board_id: jar.boardId,
      picture: jar.picture && !jar.pictureOpen ? asReadFrom(jar.picture) : null,
    };
  }
  return {
    ...common,
    method: jar.method,
    shakes: jar.shakes,
    bees_known_by: jar.knownBy,
    bees: jar.bees,
    volume_ml: jar.volumeMl,
    mass_g: jar.massG,
    place_of_bees: jar.place,
    queen_safe: jar.queen,
    rested_s: jar.method === "sugar" ? jar.restedS : null,
    wet: jar.method === "sugar" ? jar.wet : "not_looked",
  };
}

/**
 * The measure of a count, as the ruler is asked for; null where there is none. Half hours, so that it is not asked
 * again each minute.
 */
export function asMeasure(
  jar: Jar,
  apiaryId: string,
  now: string,
): Omit<Schemas["RulerInput"], "mites_from" | "mites_to"> | null {
  if (onBoard(jar.method)) {
    const days = boardDays(jar, now);
    if (days === null || days < 0.5 || days > 60) return null;
    const share = jar.shakes.length / jar.squaresInAll;
    return {
      apiary_id: apiaryId,
      method: jar.method,
      board_days: (Math.round(days * 48) / 48) * share,
      place_of_bees: "brood_frame",
    };
  }
  if (!inJar(jar.method)) return null;
  return {
    apiary_id: apiaryId,
    method: jar.method,
    bees_known_by: jar.knownBy,
    bees: jar.knownBy === "counted" || jar.knownBy === "photo" ? jar.bees : null,
    volume_ml: jar.knownBy === "volume_level" || jar.knownBy === "volume_heaped" ? jar.volumeMl : null,
    mass_g: jar.knownBy === "mass_dry" ? jar.massG : null,
    place_of_bees: jar.place,
  };
}

/** The count of a colony that was taken today as this jar would take one; none once it is begun or wanted again. */
export function countedToday(jar: Jar, counts: Schemas["StripCount"][], today: string): Schemas["StripCount"] | null {
  if (jar.again || jar.submitted || jar.recorded || onBoard(jar.method) || begun(jar)) return null;
  return (
    counts.findLast((one) => one.colony_id === jar.colonyId && one.taken_on === today && one.method === jar.method) ??
    null
  );
}

export type Question = "wet" | "queen" | "cleaned" | "greased" | "ants";

/** The question that is due now: each is asked once, when its answer is at hand, and never stops the counting. */
export function questionOf(jar: Jar): Question | null {
  if (jar.method === "sugar" && jar.wet === "not_looked" && !jar.done.includes("wet")) return "wet";
  if (jar.method === "wash" && jar.queen === "not_looked" && !jar.done.includes("queen")) return "queen";
  if (onBoard(jar.method) && jar.placedAt !== null) {
    for (const one of ["cleaned", "greased", "ants"] as const)
      if (jar[one] === "not_looked" && !jar.done.includes(one)) return one;
  }
  return null;
}

/** An answer; "not looked" is one too, and is not asked again. */
export function answer(jar: Jar, question: Question, given: Answer): Jar {
  return { ...jar, [question]: given, done: [question, ...jar.done] };
}
