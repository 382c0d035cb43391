/** What is entered of an earlier treatment, and what of it is sent. */
import type { Schemas } from "@/client/types";
import { END_KNOWN, KNOWN_FROM, SAID_OUTCOME } from "@/wording/words";

export type KnownFrom = Schemas["EarlierInput"]["known_from"];
export type End = Schemas["EarlierInput"]["end"];
type Outcome = NonNullable<Schemas["EarlierInput"]["outcome"]>;
type Sent = Omit<Schemas["EarlierAmendment"], "reason">;

export type EarlierDraft = {
  option: string;
  doses: string[];
  end: End;
  ended_on: string;
  dose: string;
  outcome: Outcome | "";
  given_by: string;
  known_from: KnownFrom;
  note: string;
};

export const NEW_DRAFT: EarlierDraft = {
  option: "",
  doses: [""],
  end: "known",
  ended_on: "",
  dose: "",
  outcome: "",
  given_by: "",
  known_from: "keeper_said",
  note: "",
};

export const draftOf = (course: Schemas["CourseView"], earlier: Schemas["Earlier"]): EarlierDraft => ({
  option: course.option.id,
  doses: earlier.doses_on,
  end: earlier.end_known,
  ended_on: earlier.end_known === "known" ? (course.ended_on ?? "") : "",
  dose: course.dose_quantity === null ? "" : String(course.dose_quantity),
  outcome: earlier.outcome ?? "",
  given_by: earlier.given_by,
  known_from: earlier.known_from,
  note: earlier.note,
});

const pairs = <T extends string>(words: Record<T, string>) => Object.entries(words) as [T, string][];
export const KNOWN_FROM_CHOICES = pairs(KNOWN_FROM);
export const END_CHOICES = pairs(END_KNOWN);
export const OUTCOME_CHOICES: [Outcome | "", string][] = [["", "not known"], ...pairs(SAID_OUTCOME)];

/** Whether all of it leaves nothing in the hive: then nobody is asked when it came out. */
export const isOverAtOnce = (draft: EarlierDraft, option: Schemas["OptionView"] | undefined): boolean =>
  option !== undefined && option.ends_at_placing && draft.doses.length >= option.applications;

/** What is sent; the end of what leaves nothing in the hive is its last dose. */
export function sentOf(draft: EarlierDraft, option: Schemas["OptionView"] | undefined): Sent {
  const atOnce = isOverAtOnce(draft, option);
  const end = atOnce ? "known" : draft.end;
  const endedOn = atOnce ? (draft.doses[draft.doses.length - 1] ?? "") : draft.ended_on;
  return {
    option_id: draft.option,
    doses_on: draft.doses,
    end,
    ended_on: end === "known" ? endedOn || null : null,
    dose_quantity: draft.dose === "" ? null : Number(draft.dose),
    outcome: draft.outcome || null,
    given_by: draft.given_by.trim(),
    known_from: draft.known_from,
    note: draft.note,
  };
}

/** Whether there is enough of it to ask what speaks against it. */
export const isComplete = (sent: Sent, option: Schemas["OptionView"] | undefined): boolean =>
  option !== undefined &&
  sent.doses_on.every((day) => day !== "") &&
  (sent.end !== "known" || sent.ended_on !== null) &&
  (sent.end !== "still_in" || sent.dose_quantity !== null || sent.doses_on.length >= option.applications);

/** What is missing or cannot be read before it is sent. */
export function faultsOf(draft: EarlierDraft): Record<string, string | false> {
  const empty = draft.doses.findIndex((day) => day === "");
  return {
    option_id: draft.option === "" && "Choose what was given",
    [`doses_on[${Math.max(0, empty)}]`]: empty >= 0 && "Choose the day",
    dose_quantity: draft.dose !== "" && !(Number(draft.dose) > 0) && "A number over 0, or nothing",
  };
}
