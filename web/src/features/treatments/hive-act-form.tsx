/** The form of an act at the hive: the day, and what the act changes. */
import { useState } from "react";
import { recordHiveAct } from "@/client/commands/courses";
import { Problem, type Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useSession } from "@/features/session/use-session";
import { DateField } from "@/ui/date-field";
import { TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { inKilograms, inLitres, type Units } from "@/ui/units";
import { Asked, type Act, type Draft } from "./hive-act-parts";

type Course = Schemas["CourseView"];
type Work = Schemas["HiveWorkNow"];
type Input = Schemas["HiveActInput"];

/** Fields that show their own errors, by what the act changes; any other message stands under the form. */
const FIELDS: Partial<Record<Act["writes"], string[]>> = {
  comb_in: ["slot"],
  comb_out: ["fate"],
  combs_out: ["frame_ids", "fate", "hatch_with"],
  boxes_off: ["frame_ids", "fate", "hatch_with"],
  box_under: ["frame_format", "box_frames"],
  box_above: ["frame_format", "box_frames"],
  queen_in: ["year"],
  queen_accepted: ["accepted"],
  feed: ["feed", "feed_amount"],
};

function begun(act: Act, work: Work, today: string): Draft {
  const nest = work.boxes.find((box) => box.purpose === "brood");
  const edge = nest && work.edge[nest.id];
  return {
    done_on: today,
    frame_ids: act.writes === "combs_out" ? work.combs.filter((comb) => comb.brood).map((comb) => comb.frame_id) : [],
    fate: "",
    hatch_with: "",
    fill: "foundation",
    at: nest && edge ? { box: nest.id, slot: edge } : null,
    frame_format: nest?.frame_format ?? "",
    box_frames: nest ? String(nest.frames) : "",
    year: today.slice(0, 4),
    mark_seen: "",
    accepted: "",
    feed: "",
    feed_amount: "",
    note: "",
    authorised_by: "",
    reason: "",
  };
}

type Props = { course: Course; work: Work; act: Act; today: string; onDone?: () => void };

export function HiveActForm({ course, work, act, today, onDone }: Props) {
  const { person } = useSession();
  const [id] = useState(() => crypto.randomUUID());
  const done = useDone(() => onDone?.());
  const [draft, set, kept] = useDraft<Draft>(() => begun(act, work, today), `hive-act:${course.id}:${act.id}`);
  const save = useSave({ kept, done, act: () => recordHiveAct(course.id, sent(id, act, draft, person)) });
  const problem = save.error instanceof Problem ? save.error : null;
  const field = bindFields(draft, set, save);
  return (
    <SaveForm
      save={save}
      kept={kept}
      fields={["done_on", "note", ...(FIELDS[act.writes] ?? [])]}
      label={`${act.title}: done`}
      sending="Recording …"
      big>
      <Asked act={act} parts={{ draft, set, save, work }} />
      <DateField label="Done on" max={today} {...field("done_on")} name="act_done_on" />
      <TextField label="Note" maxLength={2000} {...field("note")} name="act_note" />
      {problem?.canOverride && (
        <fieldset className="space-y-3 border-l-4 border-act pl-3">
          <legend className="font-semibold">Override: somebody named answers for it, and the course keeps it</legend>
          <TextField label="Who takes it on" {...field("authorised_by")} />
          <TextField label="Why" {...field("reason")} name="act_reason" />
        </fieldset>
      )}
    </SaveForm>
  );
}

/** What goes out: only what the act asks for. */
function sent(id: string, act: Act, draft: Draft, units: Units): Input {
  const named = draft.authorised_by.trim() && draft.reason.trim();
  const amount = Number(draft.feed_amount);
  const syrup = draft.feed.startsWith("syrup");
  return {
    id,
    act: act.id,
    done_on: draft.done_on,
    note: draft.note,
    override: named ? { rule: "act", authorised_by: draft.authorised_by, reason: draft.reason } : null,
    frame_ids: TAKES[act.writes] ? draft.frame_ids : [],
    ...(TAKES[act.writes] && whereTo(draft)),
    ...(FILLED[act.writes] && draft.fill !== "none" && { fill: draft.fill }),
    ...(act.writes === "comb_in" && { box_id: draft.at?.box ?? null, slot: draft.at?.slot ?? null }),
    ...(NEW_BOX[act.writes] && {
      frame_format: draft.frame_format || null,
      box_frames: draft.box_frames === "" ? null : Number(draft.box_frames),
      fill: draft.fill === "none" ? null : draft.fill,
    }),
    ...(act.writes === "queen_in" && {
      year: draft.year === "" ? null : Number(draft.year),
      mark_seen: draft.mark_seen || null,
    }),
    ...(act.writes === "queen_accepted" && {
      accepted: draft.accepted === "" ? null : draft.accepted !== "no",
      eggs_seen: draft.accepted === "" ? null : draft.accepted === "eggs",
    }),
    ...(act.writes === "feed" && {
      feed: draft.feed || null,
      feed_amount: draft.feed_amount === "" ? null : syrup ? inLitres(amount, units) : inKilograms(amount, units),
    }),
  };
}

const whereTo = ({ fate, hatch_with }: Draft): Pick<Input, "fate" | "hatch_with"> =>
  fate === "hatch" ? { hatch_with: hatch_with || null } : { fate: fate || null };

const TAKES: Partial<Record<Act["writes"], boolean>> = { combs_out: true, comb_out: true, boxes_off: true };
const FILLED: Partial<Record<Act["writes"], boolean>> = { combs_out: true, comb_out: true };
const NEW_BOX: Partial<Record<Act["writes"], boolean>> = { box_under: true, box_above: true };
