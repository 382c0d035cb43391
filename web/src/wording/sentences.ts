/**
 * Sentences of the core: the words stand in one file for browser and paper, and the compiler flags a code without them.
 * A place in a sentence is `{name}` or `{name:kind}` (the kinds: src/redframe/wording/sentences.py).
 */
import texts from "../../../src/redframe/wording/sentences.json";
import type { Schemas } from "@/client/types";

type Params = Schemas["Said"]["params"];
type Param = NonNullable<Params>[string];

export type Code =
  | Schemas["Said"]["code"]
  | Schemas["CountFinding"]["code"]
  | Schemas["Reason"]["code"]
  | Schemas["MovedWhy"]["code"]
  | Schemas["Due"]["code"]
  | Schemas["Turns"]["code"]
  | Schemas["TreatedFor"]["code"]
  | Schemas["BroodSaid"]["code"]
  | Schemas["Evidence"]["code"]
  | Schemas["ProgrammeSaid"]["code"]
  | Schemas["LateCost"]["code"]
  | Schemas["ReadBackItem"]["code"];

const VISITS: Record<Schemas["Said"]["code"], string> = texts.visits;
const COUNTS: Record<Schemas["CountFinding"]["code"], string> = texts.counts;
const TREATMENTS: Record<Schemas["Reason"]["code"], string> = texts.treatments;
const STEPS: Record<Exclude<Schemas["MovedWhy"]["code"], Schemas["Reason"]["code"]>, string> = texts.steps;
const LATENESS: Record<Schemas["LateCost"]["code"], string> = texts.lateness;
const DAYS: Record<Schemas["Due"]["code"], string> = texts.days;
const TURNS: Record<Schemas["Turns"]["code"], string> = texts.turns;
const REGISTERS: Record<Schemas["TreatedFor"]["code"], string> = texts.registers;
const BROOD: Record<Schemas["BroodSaid"]["code"], string> = texts.brood;
const FAILURE: Record<Schemas["Evidence"]["code"], string> = texts.failure;
const AUTUMN: Record<Schemas["ProgrammeSaid"]["code"], string> = texts.autumn;
const DEADOUTS: Record<Schemas["ReadBackItem"]["code"], string> = texts.deadouts;
const SENTENCES: Record<Code, string> = {
  ...VISITS,
  ...COUNTS,
  ...TREATMENTS,
  ...STEPS,
  ...LATENESS,
  ...DAYS,
  ...TURNS,
  ...REGISTERS,
  ...BROOD,
  ...FAILURE,
  ...AUTUMN,
  ...DEADOUTS,
};
const WORDS: Record<string, Record<string, string>> = texts.words;

export const NEXT_VISIT: Record<Schemas["NextVisit"]["why"], string> = texts.words.next_visit;
export const QUEEN_TRACE: Record<Schemas["QueenTrace"]["why"], string> = texts.words.queen_trace;
export const CRITERION: Record<Schemas["Criterion"]["name"], string> = texts.words.criterion;

/** What it costs when a step is late, by its kind; the others cost nothing. */
export const LATE: Partial<Record<Schemas["StepView"]["kind"], string>> = texts.words.late;

/** How the person in front of it reads days, temperatures (°C in) and weights (kg in). */
export type Shown = {
  date: (day: string) => string;
  temperature: (celsius: number) => string;
  weight: (kg: number) => string;
};

/** The sentence of a code with what goes into it. */
export function sentence(code: Code, params: Params, shown: Shown): string {
  return SENTENCES[code].replace(/\{(\w+)(?::([^}]+))?\}/g, (_, name: string, kind?: string) => {
    const value = params?.[name];
    return value === undefined ? "" : inWords(value, kind, shown);
  });
}

function inWords(value: Param, kind: string | undefined, shown: Shown): string {
  if (typeof value === "number") return figure(value, kind, shown);
  if (typeof value === "string") return kind === "date" ? shown.date(value) : ((kind && WORDS[kind]?.[value]) ?? value);
  if (kind === "places") return value.map((one) => one.replace(/^(.*)\/(.*)$/, "box $1 frame $2")).join(", ");
  const named = value.join(", ");
  return kind === "Names" ? named.slice(0, 1).toUpperCase() + named.slice(1) : named;
}

function figure(value: number, kind: string | undefined, shown: Shown): string {
  switch (kind) {
    case undefined:
      return tenth(value);
    case "temperature":
      return shown.temperature(value);
    case "weight":
      return shown.weight(value);
    case "exact":
      return String(value);
    case "tenth":
      return value.toFixed(1);
    case "whole":
      return value.toFixed(0);
    case "percent":
      return `${(100 * value).toFixed(0)}%`;
  }
  const [one, many] = kind.split("|");
  return many ? `${tenth(value)} ${value === 1 ? one : many}` : (WORDS[kind]?.[String(value)] ?? String(value));
}

/** To one decimal, without a trailing nought. */
const tenth = (value: number) => String(Math.round(value * 10) / 10);
