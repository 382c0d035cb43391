/** Amending a step that was recorded: its day, dose, lot and note, and why. The dates behind it move with it. */
import { amendAct } from "@/client/commands/courses";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";
import { useSay } from "@/features/session/use-say";

export function AmendAct({
  courseId,
  act,
  title,
  today,
  onClose,
}: {
  courseId: string;
  act: Schemas["Act"];
  title: string;
  today: string;
  onClose: () => void;
}) {
  const done = useDone(onClose);
  const say = useSay();
  const [day, setDay] = useState(act.done_on);
  const [dose, setDose] = useState(act.quantity === null ? "" : String(act.quantity));
  const [lot, setLot] = useState(act.lot);
  const [note, setNote] = useState(act.note);
  const [reason, setReason] = useState("");
  const amend = useMutation({
    mutationFn: () =>
      amendAct(courseId, act.id, act.version, {
        done_on: day,
        quantity: act.quantity === null ? null : Number(dose),
        lot,
        count_id: act.count_id,
        note,
        reason,
      }),
    onSuccess: done,
  });
  const problem = amend.error instanceof Problem ? amend.error : null;
  const late = problem?.at("done_on");
  return (
    <Dialog open onClose={onClose} title={`Amend: ${title}`}>
      <form
        noValidate
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          amend.mutate();
        }}>
        <Field label="Done on" name="amend-day" error={late && say(late)}>
          <input
            type="date"
            className="input"
            max={today}
            value={day}
            onChange={(event) => setDay(event.target.value)}
            {...described("amend-day", late)}
          />
        </Field>
        {act.quantity !== null && (
          <div className="grid grid-cols-2 gap-4">
            <Field label={`Dose placed, ${act.quantity_unit ?? ""}`} name="amend-dose" error={problem?.at("quantity")}>
              <input
                inputMode="decimal"
                className="input"
                value={dose}
                onChange={(event) => setDose(event.target.value.replace(",", "."))}
                {...described("amend-dose", problem?.at("quantity"))}
              />
            </Field>
            <Field label="Lot on the pack" name="amend-lot" error={problem?.at("lot")}>
              <input
                className="input"
                maxLength={80}
                value={lot}
                onChange={(event) => setLot(event.target.value)}
                {...described("amend-lot", problem?.at("lot"))}
              />
            </Field>
          </div>
        )}
        <Field label="Note" name="amend-note">
          <input
            className="input"
            maxLength={2000}
            value={note}
            onChange={(event) => setNote(event.target.value)}
            {...described("amend-note")}
          />
        </Field>
        <Field label="Why" name="amend-reason" hint="Kept with the version before" error={problem?.at("reason")}>
          <input
            className="input"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
            {...described("amend-reason", problem?.at("reason"), true)}
          />
        </Field>
        <FormError error={amend.error} fields={["done_on", "quantity", "lot", "reason"]} />
        <Button type="submit" variant="main" className="w-full" disabled={amend.isPending}>
          Amend the step
        </Button>
      </form>
    </Dialog>
  );
}
