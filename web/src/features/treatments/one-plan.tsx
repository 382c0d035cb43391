/** One plan for the apiary: what most colonies may have, for the others what suits them; each can be changed. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { planCourses } from "@/client/commands/plans";
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { useMay } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { FormError } from "@/ui/field";
import { Notice } from "@/ui/page";
import { quantity } from "@/ui/units";
import { colonies } from "@/wording/words";
import { isStartable, type Options } from "./option-rows";

type Colony = Schemas["ColonyOptions"];

export function OnePlan({ view }: { view: Options }) {
  const mayRecord = useMay("record");
  const several = view.colonies.length > 1;
  if (!several || !view.colonies.some((one) => !hasCourse(one) && one.proposed.why !== "nothing")) return null;
  return (
    <details className="mt-4" key={view.start_on}>
      <summary className="min-h-9 cursor-pointer py-1 font-semibold underline underline-offset-4">
        One plan for these colonies: {summaryOf(view)}
      </summary>
      <Mix view={view} mayRecord={mayRecord} />
    </details>
  );
}

const nameOf = (view: Options, id: string) => view.catalogue.find((one) => one.id === id)?.short_name ?? id;
/** A course that is planned or in the hive goes on: nothing else is proposed. */
const hasCourse = (one: Colony) =>
  one.open_courses.some((course) => course.state === "planned" || course.state === "under_way");
const isReady = (one: Colony) => !hasCourse(one) && (one.proposed.why === "common" || one.proposed.why === "instead");

/** "formic strips for 6, oxalic trickle for 1, 1 waits" */
function summaryOf(view: Options): string {
  const counted = new Map<string, number>();
  for (const { proposed } of view.colonies.filter(isReady))
    counted.set(proposed.option_id ?? "", (counted.get(proposed.option_id ?? "") ?? 0) + 1);
  const inCourse = view.colonies.filter(hasCourse).length;
  const others = view.colonies.filter((one) => !hasCourse(one));
  const waiting = others.filter((one) => one.proposed.why === "waits").length;
  const nothing = others.filter((one) => one.proposed.why === "nothing").length;
  const parts = [...counted].map(([id, number]) => `${nameOf(view, id)} for ${number}`);
  if (waiting > 0) parts.push(`${waiting} ${waiting === 1 ? "waits" : "wait"}`);
  if (nothing > 0) parts.push(`nothing for ${nothing}`);
  if (inCourse > 0) parts.push(`${inCourse} in a course already`);
  return parts.join(", ");
}

/** What is chosen of each colony: "" leaves it out. */
function useMix(view: Options) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [planId] = useState(() => crypto.randomUUID());
  const [courseIds] = useState(() => new Map(view.colonies.map((one) => [one.colony_id, crypto.randomUUID()])));
  const [said, setSaid] = useState<Readonly<Record<string, string>>>({});
  const chosen = (one: Colony) => said[one.colony_id] ?? (isReady(one) ? (one.proposed.option_id ?? "") : "");
  const taken = view.colonies.filter((one) => chosen(one) !== "");
  const plan = useMutation({
    mutationFn: async () => {
      const rows: Schemas["PlannedRow"][] = [];
      for (const option of new Set(taken.map(chosen)))
        rows.push(
          ...(await planCourses({
            id: planId,
            apiary_id: view.apiary.id,
            option_id: option,
            start_on: view.start_on,
            order: "",
            interval_override: null,
            courses: taken
              .filter((one) => chosen(one) === option)
              .map((one) => ({ id: courseIds.get(one.colony_id) ?? "", colony_id: one.colony_id, overrides: [] })),
          })),
        );
      return rows;
    },
    onSuccess: async (rows) => {
      await client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "options" });
      const first = rows.find((one) => one.course_id !== null);
      if (first?.course_id && rows.every((one) => one.course_id !== null))
        await navigate({ to: "/courses/$id", params: { id: first.course_id } });
    },
  });
  const choose = (id: string, option: string) => setSaid((old) => ({ ...old, [id]: option }));
  return { plan, taken, chosen, choose };
}

function Mix({ view, mayRecord }: { view: Options; mayRecord: boolean }) {
  const say = useSentence();
  const { plan, taken, chosen, choose } = useMix(view);
  const held = (plan.data ?? []).filter((one) => one.course_id === null);
  return (
    <div className="pt-2">
      <p className="text-ink-2">As many as possible get the same; a colony leaves it only where it may not have it.</p>
      <ul className="mt-2 border-t border-line">
        {view.colonies.map((one) => (
          <MixRow key={one.colony_id} view={view} of={one} value={chosen(one)} choose={choose} />
        ))}
      </ul>
      {held.length > 0 && (
        <div role="alert" className="mt-3">
          <Notice tone="act">
            Held back: {held.map((one) => `${one.label} (${one.held_by.map(say).join("; ")})`).join(", ")}
          </Notice>
        </div>
      )}
      {mayRecord && (
        <Button
          variant="main"
          className="mt-3"
          disabled={taken.length === 0 || plan.isPending}
          onClick={() => plan.mutate()}>
          {plan.isPending ? "Planning …" : `Plan ${colonies(taken.length)} for ${shortDay(view.start_on)}`}
        </Button>
      )}
      <FormError error={plan.error} fields={[]} />
    </div>
  );
}

type RowProps = { view: Options; of: Colony; value: string; choose: (id: string, option: string) => void };

function MixRow({ view, of, value, choose }: RowProps) {
  const startable = of.options.filter((one) => isStartable(one) && one.verdict.startsWith("allowed"));
  const judged = of.options.find((one) => one.option_id === value);
  return (
    <li className="grid grid-cols-[4rem_minmax(0,1fr)] items-center gap-x-3 border-b border-line py-1">
      <span className="figure">{of.label}</span>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <select
          aria-label={`Treatment of ${of.label}`}
          className="input w-auto max-w-full"
          value={value}
          onChange={(event) => choose(of.colony_id, event.target.value)}>
          <option value="">leave it out</option>
          {startable.map((one) => (
            <option key={one.option_id} value={one.option_id}>
              {nameOf(view, one.option_id)}
            </option>
          ))}
        </select>
        <span className="text-sm text-ink-2">
          {judged?.dose && `${quantity(judged.dose.quantity, judged.dose.unit)}. `}
          <WhyProposed view={view} of={of} />
        </span>
      </div>
    </li>
  );
}

/** Why it is not the common one: what holds that back for this colony. */
function WhyProposed({ view, of }: { view: Options; of: Colony }) {
  const say = useSentence();
  const { proposed } = of;
  if (hasCourse(of)) return <>In a course already.</>;
  if (proposed.why === "common") return null;
  if (proposed.why === "nothing") return <>Nothing suits in these days.</>;
  const common = view.colonies.find((one) => one.proposed.why === "common")?.proposed.option_id;
  const about = of.options.find((one) => one.option_id === (proposed.why === "waits" ? proposed.option_id : common));
  const why = (about?.reasons ?? []).filter((one) => one.level !== "caution").map(say);
  if (proposed.why === "waits")
    return (
      <>
        Waits: {nameOf(view, proposed.option_id ?? "")}
        {proposed.from_day && ` from ${shortDay(proposed.from_day, view.start_on)}`}. {why.join("; ")}
      </>
    );
  return <>{why.join("; ")}</>;
}
