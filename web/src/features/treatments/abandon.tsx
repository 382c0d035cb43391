/** Ending a course before its time: it stays on record as abandoned. */
import { abandonCourse } from "@/client/commands/courses";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { Dialog } from "@/ui/dialog";
import { DateField } from "@/ui/date-field";
import { TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

type Props = { open: boolean; onClose: () => void; course: Schemas["CourseView"]; today: string };

export function Abandon({ open, onClose, course, today }: Props) {
  const done = useDone(onClose);
  const [draft, set, kept] = useDraft({ why: "", removed_on: today }, `abandon:${course.id}:${course.version}`);
  const placed = course.placed_on !== null && course.ended_on === null;
  const save = useSave({
    kept,
    act: () => abandonCourse(course.id, draft.why, placed ? draft.removed_on : null),
    done,
  });
  const field = bindFields(draft, set, save);
  const label = `Abandon the course of ${course.label}`;
  return (
    <Dialog open={open} onClose={onClose} title={label}>
      <SaveForm save={save} kept={kept} fields={["why", "removed_on"]} label={label}>
        <p>The course stays on record as abandoned. Other colonies of the plan go on.</p>
        <TextField label="Why" {...field("why")} />
        {placed && <DateField label="Out of the hive since" max={today} {...field("removed_on")} />}
      </SaveForm>
    </Dialog>
  );
}
