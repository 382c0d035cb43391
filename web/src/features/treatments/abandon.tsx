/** Ending a course before its time: it stays on record as abandoned. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { abandonCourse } from "@/client/commands/courses";
import { Problem, type Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { FormError } from "@/ui/field";
import { DateField, Form, TextField } from "@/ui/fields";

type Props = { open: boolean; onClose: () => void; course: Schemas["CourseView"]; today: string };

export function Abandon({ open, onClose, course, today }: Props) {
  const client = useQueryClient();
  const [why, setWhy] = useState("");
  const [removed, setRemoved] = useState(today);
  const placed = course.placed_on !== null && course.ended_on === null;
  const abandon = useMutation({
    mutationFn: () => abandonCourse(course.id, why, placed ? removed : null),
    onSuccess: async () => {
      await client.invalidateQueries();
      onClose();
    },
  });
  const problem = abandon.error instanceof Problem ? abandon.error : null;
  return (
    <Dialog open={open} onClose={onClose} title={`Abandon the course of ${course.label}`}>
      <Form onSubmit={() => abandon.mutate()}>
        <p>The course stays on record as abandoned. Other colonies of the plan go on.</p>
        <TextField label="Why" name="why" error={problem?.at("why")} value={why} onChange={setWhy} />
        {placed && (
          <DateField
            label="Out of the hive since"
            name="removed_on"
            error={problem?.at("removed_on")}
            max={today}
            value={removed}
            onChange={setRemoved}
          />
        )}
        <FormError error={abandon.error} fields={["why", "removed_on"]} />
        <Button type="submit" variant="main" disabled={abandon.isPending}>
          Abandon the course of {course.label}
        </Button>
      </Form>
    </Dialog>
  );
}
