/** The work at the hive in a course without a product: what to take along, act by act, and how things stand. */
import { useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { useState } from "react";
import { withdrawHiveAct } from "@/client/commands/courses";
import { hiveWorkQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { HiveActForm } from "./hive-act-form";
import type { Act } from "./hive-act-parts";
import { StepGlyph } from "./step-glyph";

type Course = Schemas["CourseView"];
type Props = { course: Course; today: string; mayRecord: boolean };

/** Whether the course has work at the hive. */
export const hasHiveWork = (course: Course): boolean => course.steps.some((step) => step.by_acts);

export function HiveWork({ course, today, mayRecord }: Props) {
  const query = useQuery(hiveWorkQuery(course.id));
  const [opened, setOpened] = useState<string | null>(null);
  const [withdrawing, setWithdrawing] = useState<Act | null>(null);
  const work = query.data;
  if (!work || work.acts.every((act) => act.state === "passed")) return null;
  const mayGoOn = mayRecord && course.is_open;
  const at = work.acts.find((act) => act.id === opened && act.state === "ready") ?? nextOf(work.acts);
  // A step whose day has not come is shown, not asked for, unless somebody opens it.
  const step = course.steps.find((one) => one.name === at?.step);
  const early = step !== undefined && step.act === null && step.earliest > today && at?.id !== opened;
  return (
    <section aria-labelledby="hive-work" className="space-y-3">
      <h2 id="hive-work" className="text-2xl">
        At the hive
      </h2>
      {work.stands && (
        <Notice>
          <strong>As it stands:</strong> {work.stands}
        </Notice>
      )}
      {mayGoOn && !work.stands && (
        <p>
          <strong>Take along:</strong> {work.kit.join(", ")}.
        </p>
      )}
      <ol>
        {work.acts.map((act) => (
          <li
            key={act.id}
            className={clsx("border-b border-line py-2", at?.id === act.id && !early && "bg-sheet px-3")}>
            <ActHead act={act} today={today} current={at?.id === act.id} />
            {at?.id === act.id && !early && <p className="mt-1 text-ink-2">{act.how}</p>}
            {mayGoOn && at?.id === act.id && !early && (
              <div className="mt-3">
                <HiveActForm
                  key={`${course.id}-${act.id}`}
                  course={course}
                  work={work}
                  act={act}
                  today={today}
                  onDone={() => setOpened(null)}
                />
              </div>
            )}
            {mayGoOn && act.state === "ready" && (at?.id !== act.id || early) && (
              <Button className="mt-2" onClick={() => setOpened(act.id)}>
                {act.optional ? `Also: ${act.title.toLowerCase()}` : `${act.title}: earlier than planned`}
              </Button>
            )}
            {mayGoOn && act.done && (
              <button
                type="button"
                className="min-h-14 px-1 underline underline-offset-4 desk:min-h-7 print:hidden"
                aria-label={`Not so: ${act.title}`}
                onClick={() => setWithdrawing(act)}>
                Not so
              </button>
            )}
          </li>
        ))}
      </ol>
      {withdrawing?.done && <NotSo act={withdrawing} id={withdrawing.done.id} onClose={() => setWithdrawing(null)} />}
    </section>
  );
}

/** The act that is next: the first that cannot be left out. */
const nextOf = (acts: Act[]): Act | undefined => acts.find((act) => act.state === "ready" && !act.optional);

function ActHead({ act, today, current }: { act: Act; today: string; current: boolean }) {
  const state = act.done ? "done" : act.state === "ready" ? "ready" : act.state === "passed" ? "skipped" : "pending";
  return (
    <div className="grid grid-cols-[1.6rem_1fr]">
      <StepGlyph state={state} />
      <div>
        <span className={clsx((act.done || current) && "font-bold")}>{act.title}</span>
        {act.optional && !act.done && <span className="text-sm text-ink-2"> (if needed)</span>}
        {act.state === "passed" && <span className="text-sm text-ink-2"> (recorded without it)</span>}
        {act.done && (
          <span className="text-sm text-ink-2">
            {" "}
            {shortDay(act.done.done_on, today)}, {act.done.by_name}. {act.done.note}
          </span>
        )}
        {act.hatching && (
          <p>
            The brood hatches with {act.hatching.label}, its workers by {shortDay(act.hatching.by, today)}: then count
            and treat {act.hatching.label}.
          </p>
        )}
      </div>
    </div>
  );
}

/** An act that was not done: said with a reason; what it changed is put right where it shows. */
function NotSo({ act, id, onClose }: { act: Act; id: string; onClose: () => void }) {
  const done = useDone(onClose);
  const [draft, set, kept] = useDraft({ why: "" }, `hive-act-not-so:${id}`);
  const save = useSave({ kept, done, act: () => withdrawHiveAct(id, draft.why) });
  const field = bindFields(draft, set, save);
  const label = `Not so: ${act.title.toLowerCase()}`;
  return (
    <Dialog open onClose={onClose} title={label}>
      <SaveForm save={save} kept={kept} fields={["why"]} label={label}>
        {act.writes !== "nothing" && (
          <p>Queen, boxes and combs stay as they are on record: put them right on the page of the colony.</p>
        )}
        <TextField label="Why" {...field("why")} />
      </SaveForm>
    </Dialog>
  );
}
