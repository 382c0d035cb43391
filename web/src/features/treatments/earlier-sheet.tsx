/** An earlier treatment on record: what is known of it and from where, what the rules say, amending and withdrawing. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { amendEarlier, withdrawEarlier } from "@/client/commands/courses";
import { catalogueQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useSay } from "@/features/session/use-say";
import { useSentence } from "@/features/session/use-sentence";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/fields";
import { Notice, SectionHeading } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { quantity } from "@/ui/units";
import { KNOWN_FROM, SAID_OUTCOME } from "@/wording/words";
import { draftOf, faultsOf, sentOf } from "./earlier-draft";
import { EARLIER_FIELDS, EarlierFields } from "./earlier-fields";

type Course = Schemas["CourseView"];
type Props = { course: Course; earlier: Schemas["Earlier"]; today: string; mayRecord: boolean };

export function EarlierSheet({ course, earlier, today, mayRecord }: Props) {
  const [open, setOpen] = useState<"amend" | "withdraw" | null>(null);
  const close = () => setOpen(null);
  const isOver = course.state === "given_earlier";
  return (
    <>
      {course.state === "withdrawn" && (
        <div className="mt-4">
          <Notice tone="act">Withdrawn, it was not given: {earlier.withdrawn_why}</Notice>
        </div>
      )}
      <section aria-labelledby="earlier" className="mt-6 max-w-2xl">
        <SectionHeading id="earlier">Given before it was planned here</SectionHeading>
        <Known course={course} earlier={earlier} today={today} />
        <ByTheRules course={course} />
        {mayRecord && course.state !== "withdrawn" && (
          <div className="mt-4 flex flex-wrap gap-2">
            {isOver && <Button onClick={() => setOpen("amend")}>Amend what is known</Button>}
            <Button variant="quiet" onClick={() => setOpen("withdraw")}>
              It was not given
            </Button>
          </div>
        )}
      </section>
      <Dialog open={open === "amend"} onClose={close} title={`Amend: ${course.option.short_name}, ${course.label}`}>
        <Amend course={course} earlier={earlier} today={today} onClose={close} />
      </Dialog>
      <Dialog open={open === "withdraw"} onClose={close} title={`It was not given to ${course.label}`}>
        <Withdraw course={course} earlier={earlier} onClose={close} />
      </Dialog>
    </>
  );
}

function Known({ course, earlier, today }: Omit<Props, "mayRecord">) {
  const ended = course.ended_on && shortDay(course.ended_on, today);
  const lines: [string, string][] = [
    [earlier.doses_on.length > 1 ? "Doses" : "Given", earlier.doses_on.map((day) => shortDay(day, today)).join(", ")],
    [
      "Out",
      earlier.end_known === "not_known" ? `day not known${ended ? `, taken as ${ended}` : ""}` : (ended ?? "still in"),
    ],
    ["Dose", course.dose_quantity === null ? "not known" : quantity(course.dose_quantity, course.dose_unit)],
    ["Result", earlier.outcome ? SAID_OUTCOME[earlier.outcome] : "not known"],
    ["Given by", earlier.given_by || "not known"],
    ["Known from", KNOWN_FROM[earlier.known_from]],
    ["Entered", `${shortDay(course.created_at, today)} by ${course.by_name || "somebody"}`],
    ...(earlier.note ? [["Note", earlier.note] as [string, string]] : []),
  ];
  return (
    <dl className="mt-2 grid grid-cols-[7rem_1fr] gap-x-3">
      {lines.map(([name, text]) => (
        <div key={name} className="contents">
          <dt className="border-b border-line py-1.5 text-ink-2">{name}</dt>
          <dd className="border-b border-line py-1.5 font-semibold">{text}</dd>
        </div>
      ))}
    </dl>
  );
}

function ByTheRules({ course }: { course: Course }) {
  const say = useSentence();
  if (course.reasons.length === 0) return null;
  return (
    <div className="mt-4 border-l-4 border-watch pl-3">
      <p className="font-semibold">By the rules, when it was entered:</p>
      <ul>
        {course.reasons.map((reason) => (
          <li key={`${reason.rule} ${say(reason)}`}>{say(reason)}</li>
        ))}
      </ul>
    </div>
  );
}

type FormProps = { course: Course; earlier: Schemas["Earlier"]; onClose: () => void };

function Amend({ course, earlier, today, onClose }: FormProps & { today: string }) {
  const done = useDone(onClose);
  const say = useSay();
  const catalogue = useQuery(catalogueQuery);
  const option = catalogue.data?.find((one) => one.id === course.option.id);
  const [draft, set, kept] = useDraft(
    { ...draftOf(course, earlier), reason: "" },
    `earlier:${course.id}:${earlier.version}`,
  );
  const save = useSave({
    kept,
    act: () => amendEarlier(course.id, earlier.version, { ...sentOf(draft, option), reason: draft.reason }),
    check: () => ({ ...faultsOf(draft), reason: draft.reason.trim().length < 3 && "Say why" }),
    done,
  });
  const at = (name: string) => {
    const text = save.at(name);
    return text && say(text);
  };
  return (
    <SaveForm save={save} kept={kept} fields={[...EARLIER_FIELDS, "reason"]} label="Amend it" disabled={!option}>
      <EarlierFields draft={draft} set={set} save={{ at }} option={option} today={today} mayBeIn={false} />
      <TextField label="Why" hint="Kept with the version before" {...bindFields(draft, set, save)("reason")} />
    </SaveForm>
  );
}

function Withdraw({ course, earlier, onClose }: FormProps) {
  const done = useDone(onClose);
  const [draft, set, kept] = useDraft({ why: "" }, `withdraw:${course.id}:${earlier.version}`);
  const save = useSave({
    kept,
    act: () => withdrawEarlier(course.id, earlier.version, draft.why),
    check: () => ({ why: draft.why.trim().length < 3 && "Say why" }),
    done,
  });
  return (
    <SaveForm save={save} kept={kept} fields={["why"]} label="Withdraw it">
      <p>It stays on record as withdrawn, and no rule counts it.</p>
      <TextField label="Why" {...bindFields(draft, set, save)("why")} />
    </SaveForm>
  );
}
