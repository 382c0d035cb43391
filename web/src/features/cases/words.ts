/** Words of cases, as the core says them, and moments as they are written in a record. */
import { useSuspenseQuery } from "@tanstack/react-query";
import { caseWordsQuery } from "@/client/case-queries";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";

export type CaseWords = Schemas["CaseWords"];

export function useCaseWords(): Schemas["CaseVocabulary"] {
  return useSuspenseQuery(caseWordsQuery).data;
}

/** A part of a record that is named by a word of its own: its words. */
export function said<T>(words: Record<string, T>, name: string): T {
  const found = words[name];
  if (found === undefined) throw new Error(`no words for ${name}`);
  return found;
}

const ROLE: Record<string, string> = {
  keeper: "the keeper",
  mentor: "a mentor",
  inspector: "an inspector",
  administrator: "an administrator",
  laboratory: "the laboratory",
  system: "this program",
};

/** What somebody was when an entry was made: "inspector". */
export function roleSays(actor: string): string {
  return (ROLE[actor] ?? actor).replace(/^(the|an?) /, "");
}

/** "the keeper, a mentor or an inspector", in the order of their nearness to the bees. */
export function whoSays(actors: readonly string[]): string {
  const named = Object.keys(ROLE)
    .filter((one) => actors.includes(one))
    .map((one) => ROLE[one] ?? one);
  return named.length < 2 ? (named[0] ?? "nobody") : `${named.slice(0, -1).join(", ")} or ${named.at(-1)}`;
}

const two = (number: number) => String(number).padStart(2, "0");

/** The day of a moment where the device is, and its time. */
export function localParts(iso: string): { day: string; time: string } {
  const at = new Date(iso);
  return {
    day: `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`,
    time: `${two(at.getHours())}:${two(at.getMinutes())}`,
  };
}

export function shortMoment(iso: string, today?: string): string {
  const { day, time } = localParts(iso);
  return `${shortDay(day, today)}, ${time}`;
}

/** A day and a time of the device as a moment with its offset; null for what is none. */
export function momentOf(day: string, time: string): string | null {
  const at = new Date(`${day}T${time}`);
  return Number.isNaN(at.getTime()) ? null : at.toISOString();
}

/** "30 h", "3 days 4 h". */
export function hoursSaid(hours: number): string {
  const whole = Math.floor(hours);
  if (whole < 72) return `${whole} h`;
  return `${Math.floor(whole / 24)} days${whole % 24 ? ` ${whole % 24} h` : ""}`;
}
