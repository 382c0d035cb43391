/** The jars on the bench: pure changes of state, kept on the device at every tap. */
import type { Schemas } from "@/client/api";
import { notAfterNow } from "@/ui/clock";

export type Measure = Schemas["RulerInput"]["bees_known_by"];
export type Sending = { state: "open" } | { state: "sending" } | { state: "waiting"; why: string } | { state: "kept" } | { state: "refused"; why: string };

export type Jar = {
  id: string;
  colonyId: string;
  label: string;
  shakes: number[];
  done: string[];
  knownBy: Measure;
  bees: number | null;
  volumeMl: number | null;
  massG: number | null;
  place: NonNullable<Schemas["RulerInput"]["place_of_bees"]>;
  brood: NonNullable<Schemas["CountInput"]["brood_state"]>;
  queen: NonNullable<Schemas["CountInput"]["queen_safe"]>;
  takenAt: string | null;
  sending: Sending;
};

export type SetUp = Pick<Jar, "knownBy" | "bees" | "volumeMl" | "massG" | "place" | "brood" | "queen">;

export const USUAL: SetUp = {
  knownBy: "volume_level",
  bees: null,
  volumeMl: 120,
  massG: null,
  place: "brood_frame",
  brood: "open_and_capped",
  queen: "not_looked",
};

export function newJar(colonyId: string, label: string, usual: SetUp): Jar {
  return { id: crypto.randomUUID(), colonyId, label, shakes: [0], done: [], ...usual, queen: "not_looked", takenAt: null, sending: { state: "open" } };
}

export const mitesIn = (jar: Jar): number => jar.shakes.reduce((sum, one) => sum + one, 0);

/** One mite more in the present shake. The jar's time is that of its first mark. */
export function addMite(jar: Jar, now: string): Jar {
  const shakes = [...jar.shakes];
  shakes[shakes.length - 1] = (shakes.at(-1) ?? 0) + 1;
  return { ...jar, shakes, done: [...jar.done, "mite"].slice(-400), takenAt: jar.takenAt ?? now };
}

/** The next shake of the same jar; six at the most are worth it, eight are recorded. */
export function nextShake(jar: Jar, now: string): Jar {
  if (jar.shakes.length >= 8) return jar;
  return { ...jar, shakes: [...jar.shakes, 0], done: [...jar.done, "shake"], takenAt: jar.takenAt ?? now };
}

/** One step back: the last mite, or the shake that was just begun. */
export function oneBack(jar: Jar): Jar {
  const last = jar.shakes.at(-1) ?? 0;
  if (last > 0) return { ...jar, shakes: [...jar.shakes.slice(0, -1), last - 1], done: jar.done.slice(0, -1) };
  if (jar.shakes.length > 1) return { ...jar, shakes: jar.shakes.slice(0, -1), done: jar.done.slice(0, -1) };
  return jar;
}

/** What the server is told of a jar. */
export function asCount(jar: Jar): Schemas["CountInput"] {
  return {
    id: jar.id,
    colony_id: jar.colonyId,
    taken_at: notAfterNow(jar.takenAt),
    shakes: jar.shakes,
    bees_known_by: jar.knownBy,
    bees: jar.bees,
    volume_ml: jar.volumeMl,
    mass_g: jar.massG,
    place_of_bees: jar.place,
    brood_state: jar.brood,
    queen_safe: jar.queen,
    note: "",
  };
}

/** The measure of a jar, as the ruler is asked for. */
export function asMeasure(jar: Jar): Omit<Schemas["RulerInput"], "mites_from" | "mites_to"> {
  return {
    bees_known_by: jar.knownBy,
    bees: jar.knownBy === "counted" || jar.knownBy === "photo" ? jar.bees : null,
    volume_ml: jar.knownBy === "volume_level" || jar.knownBy === "volume_heaped" ? jar.volumeMl : null,
    mass_g: jar.knownBy === "mass_dry" ? jar.massG : null,
    place_of_bees: jar.place,
  };
}
