/** Amending a step that was recorded: its day, dose, lot and note, and why. The dates behind it move with it. */
import { amendAct } from "@/client/commands/courses";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useSay } from "@/features/session/use-say";
import { ChoiceField } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { DateField } from "@/ui/date-field";
import { NumberField, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

type Props = { courseId: string; act: Schemas["Act"]; title: string; today: string; onClose: () => void };

export function AmendAct({ courseId, act, title, today, onClose }: Props) {
  const done = useDone(onClose);
  const say = useSay();
  const [draft, set, kept] = useDraft(
    {
      done_on: act.done_on,
      dose: act.quantity === null ? "" : String(act.quantity),
      lot: act.lot,
      note: act.note,
      supers: act.supers_on ? "on" : "off",
      reason: "",
    },
    `act:${act.id}:${act.version}`,
  );
  const save = useSave({
    kept,
    act: () => {
      const { dose, supers, ...rest } = draft;
      const supersOn = act.supers_on === null ? null : supers === "on";
      const quantity = act.quantity === null ? null : Number(dose);
      return amendAct(courseId, act.id, act.version, {
        ...rest,
        quantity,
        count_id: act.count_id,
        supers_on: supersOn,
      });
    },
    done,
  });
  const field = bindFields(draft, set, save);
  const late = save.at("done_on");
  return (
    <Dialog open onClose={onClose} title={`Amend: ${title}`}>
      <SaveForm save={save} kept={kept} fields={["done_on", "quantity", "lot", "reason"]} label="Amend the step">
        <DateField
          label="Done on"
          name="amend-day"
          error={late && say(late)}
          max={today}
          value={draft.done_on}
          onChange={(done_on) => set({ done_on })}
        />
        {act.quantity !== null && (
          <div className="grid grid-cols-2 gap-4">
            <NumberField
              label="Dose placed"
              unit={act.quantity_unit ?? ""}
              {...field("dose", "quantity")}
              name="amend-dose"
            />
            <TextField label="Lot on the pack" maxLength={80} {...field("lot")} name="amend-lot" />
          </div>
        )}
        {act.supers_on !== null && (
          <ChoiceField
            label="Honey supers"
            value={draft.supers}
            options={[
              ["off", "off, or none were on"],
              ["on", "left on"],
            ]}
            onChange={(supers) => set({ supers })}
          />
        )}
        <TextField label="Note" maxLength={2000} {...field("note")} name="amend-note" />
        <TextField label="Why" hint="Kept with the version before" {...field("reason")} name="amend-reason" />
      </SaveForm>
    </Dialog>
  );
}
