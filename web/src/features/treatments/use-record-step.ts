/**
 * Recording a step for the colonies of a plan that wait for it together. Each is saved on its own: one that is refused
 * does not stop the others. What is tried again goes under the same id, so that it is accepted once.
 */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { lotsQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { usualLot } from "./lot-field";
import { useRecordAll, type Refusal } from "./record-all";
import { NO_FACTS, type FactsDraft } from "./step-facts";
import { factsSent } from "./step-facts-sent";

type Course = Schemas["CourseView"];
type Step = Schemas["StepView"];
export type Entry = {
  day: string;
  lot: string;
  /** null: the lot that is taken as a rule. */
  lotId: string | null;
  note: string;
  who: string;
  reason: string;
  supersOn: boolean;
};
/** What is measured at each hive. */
export type Measured = { dose: string; left: string; queen: string };

const OWN_FIELDS = [
  ...["done_on", "quantity", "note", "count_id", "supers_on", "lot", "lot_id", "temperature_c", "left_pct"],
  ...["taken_out", "disposed", "adverse", "applied_by"],
];

const lastDose = (course: Course): number | null =>
  course.steps.flatMap((step) => (step.kind === "place" && step.act ? [step.act.quantity] : [])).at(-1) ??
  course.dose_quantity;

/** The lot of the placing before: the same pack as a rule, and seen before it is recorded. */
const lastLot = (course: Course): string =>
  course.steps.flatMap((step) => (step.kind === "place" && step.act?.lot ? [step.act.lot] : [])).at(-1) ?? "";

/**
 * What is the same at the next hive: the day, how warm it is, who does it, and the pack of each option that was placed
 * already.
 */
export type Carried = Pick<Entry, "day"> &
  Pick<FactsDraft, "temperature" | "applied_by"> & { packs: Readonly<Record<string, Pick<Entry, "lot" | "lotId">>> };

type Recorded = {
  course: Course;
  step: Step;
  plan: Schemas["PlanView"];
  countId: string | null;
  onRefused: (refused: Refusal[]) => void;
  /** From the hive before, and on to the next one once this one is recorded. */
  carried?: Carried | undefined;
  onRecorded?: ((carried: Carried) => void) | undefined;
};

export function useRecordStep({ course, step, plan, countId, onRefused, carried, onRecorded }: Recorded) {
  const all = useRecordAll();
  const [entry, setEntry] = useState<Entry>({
    day: carried?.day ?? plan.today,
    lot: lastLot(course),
    lotId: null,
    note: "",
    who: "",
    reason: "",
    supersOn: false,
    ...carried?.packs[course.option.id],
  });
  const [lotAsked, setLotAsked] = useState(false);
  const person = useSession().person;
  const lots = useQuery(lotsQuery);
  const usual = step.kind === "place" ? usualLot(lots.data?.lots ?? [], course.option) : undefined;
  const lotId = entry.lotId ?? usual?.lot.id ?? "";
  const [facts, setFacts] = useState<FactsDraft>({
    ...NO_FACTS,
    ...(carried && { temperature: carried.temperature, applied_by: carried.applied_by }),
  });
  const [measured, setMeasured] = useState<Record<string, Partial<Measured>>>({});
  const [unticked, setUnticked] = useState<ReadonlySet<string>>(new Set());
  const [failures, setFailures] = useState<Refusal[]>([]);
  // Of a plan over several apiaries only what stands where somebody is now.
  const sharing = plan.courses.filter(
    (one) =>
      one.id === course.id ||
      (one.apiary_id === course.apiary_id &&
        one.option.id === course.option.id &&
        one.steps.some((other) => other.name === step.name && other.is_ready)),
  );
  const alone = step.kind === "verify" || step.kind === "close";
  const ticked = new Set((alone ? [course] : sharing).map((one) => one.id).filter((id) => !unticked.has(id)));
  const placing = step.kind === "place";
  const removing = step.asks.includes("taken_out");
  const measuredOf = (one: Course): Measured => ({
    dose: String((removing ? lastDose(one) : one.dose_quantity) ?? ""),
    left: "",
    queen: "",
    ...measured[one.id],
  });
  const overriding = failures.some((one) => one.problem.canOverride);
  const override =
    overriding && entry.reason
      ? { rule: failures[0]?.problem.rule ?? "S2", authorised_by: entry.who, reason: entry.reason }
      : null;

  const factsOf = ({ dose, left, queen }: Measured): FactsDraft => ({
    ...facts,
    ...(alone ? {} : { left, queen }),
    out: removing ? dose : "",
  });

  const record = useMutation({
    mutationFn: (outcome: "done" | "skipped") =>
      all.record(
        sharing.filter((each) => ticked.has(each.id)),
        (one) => ({
          step: step.name,
          outcome,
          done_on: entry.day,
          quantity: placing ? Number(measuredOf(one).dose) : null,
          lot: placing && lotId === "" ? entry.lot : "",
          lot_id: placing && lotId !== "" ? lotId : null,
          facts: factsSent(factsOf(measuredOf(one)), person),
          note: entry.note,
          supers_on: step.kind === "close_supers_feeder" ? entry.supersOn : null,
          count_id: countId,
          override,
        }),
      ),
    onSuccess: async (failed) => {
      // Where this colony's step is done the form gives way to the next one: what was refused of the others is said
      // above.
      const stays = failed.some((one) => one.id === course.id);
      setFailures(stays ? failed : []);
      onRefused(stays ? [] : failed);
      const pack = placing ? { [course.option.id]: { lot: entry.lot, lotId: entry.lotId } } : {};
      const { temperature, applied_by } = facts;
      if (!stays) onRecorded?.({ day: entry.day, temperature, applied_by, packs: { ...carried?.packs, ...pack } });
      await all.refresh();
    },
  });
  const toggle = (id: string) =>
    setUnticked((old) => {
      const next = new Set(old);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return {
    entry,
    set: (part: Partial<Entry>) => setEntry((old) => ({ ...old, ...part })),
    facts,
    setFacts: (part: Partial<FactsDraft>) => setFacts((old) => ({ ...old, ...part })),
    lotId,
    /** Of all colonies that are ticked, in the dose's unit. */
    needed: sharing
      .filter((one) => ticked.has(one.id))
      .reduce((sum, one) => sum + (Number(measuredOf(one).dose) || 0), 0),
    measuredOf,
    measure: (id: string, part: Partial<Measured>) => setMeasured((old) => ({ ...old, [id]: { ...old[id], ...part } })),
    removing,
    sharing,
    alone,
    ticked,
    toggle,
    placing,
    overriding,
    record,
    /** Records the step; a placing without the lot of its pack is asked for it once. */
    submit: () => {
      if (placing && lotId === "" && entry.lot.trim() === "" && !lotAsked) return setLotAsked(true);
      record.mutate("done");
    },
    lotMissing: lotAsked && lotId === "" && entry.lot.trim() === "",
    /** What the server said of a field, of whichever colony. */
    at: (field: string) => failures.map((one) => one.problem.at(field)).find((message) => message !== undefined),
    /** Refusals that belong to no field of the form. */
    general: failures.filter(
      (one) => one.problem.status === 409 || one.problem.faults.every((fault) => !OWN_FIELDS.includes(fault.field)),
    ),
  };
}
