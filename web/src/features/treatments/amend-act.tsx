/** Amending a step that was recorded: its day, dose, lot and note, and why. The dates behind it move with it. */
import { amendAct } from "@/client/commands/courses";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { useSay } from "@/features/session/use-say";
import { ChoiceField } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { DateField } from "@/ui/date-field";
import { NumberField, TextField } from "@/ui/fields";
import { useSession } from "@/features/session/use-session";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

import { LotField, OTHER_LOT } from "./lot-field";
import { StepFacts } from "./step-facts";
import { factsDraft, factsSent } from "./step-facts-sent";

type Props = {
  course: Schemas["CourseView"];
  act: Schemas["Act"];
  asks: Schemas["StepView"]["asks"];
  title: string;
  today: string;
  onClose: () => void;
};

export function AmendAct({ course, act, asks, title, today, onClose }: Props) {
  const person = useSession().person;
  const done = useDone(onClose);
  const say = useSay();
  const [draft, set, kept] = useDraft(
    {
      done_on: act.done_on,
      dose: act.quantity === null ? "" : String(act.quantity),
      lot: act.lot,
      lot_id: act.lot_id ?? OTHER_LOT,
      facts: factsDraft(act.facts, person),
      note: act.note,
      supers: act.supers_on ? "on" : "off",
      reason: "",
    },
    `act:${act.id}:${act.version}`,
  );
  const save = useSave({
    kept,
    act: () => {
      const { dose, supers, facts, lot_id, ...rest } = draft;
      const supersOn = act.supers_on === null ? null : supers === "on";
      const quantity = act.quantity === null ? null : Number(dose);
      return amendAct(course.id, act.id, act.version, {
        ...rest,
        quantity,
        count_id: act.count_id,
        supers_on: supersOn,
        lot_id: lot_id === OTHER_LOT ? null : lot_id,
        facts: factsSent(facts, person),
      });
    },
    done,
  });
  const field = bindFields(draft, set, save);
  const late = save.at("done_on");
  return (
    <Dialog open onClose={onClose} title={`Amend: ${title}`}>
      <SaveForm
        save={save}
        kept={kept}
        fields={["done_on", "quantity", "lot", "lot_id", "temperature_c", "left_pct", "taken_out", "reason"]}
        label="Amend the step">
        <DateField
          label="Done on"
          name="amend-day"
          error={late && say(late)}
          max={today}
          value={draft.done_on}
          onChange={(done_on) => set({ done_on })}
        />
        {act.quantity !== null && (
          <>
            <NumberField
              label="Dose placed"
              unit={act.quantity_unit ?? ""}
              {...field("dose", "quantity")}
              name="amend-dose"
            />
            <LotField
              prefix="amend-"
              needed={0 /* what it took is off its lot already */}
              option={course.option}
              lotId={draft.lot_id}
              lot={draft.lot}
              today={today}
              errorId={save.at("lot_id")}
              error={save.at("lot")}
              onChange={(lot_id, lot) => set({ lot_id, lot })}
            />
          </>
        )}
        <StepFacts
          prefix="amend-"
          asks={asks}
          facts={draft.facts}
          set={(part) => set({ facts: { ...draft.facts, ...part } })}
          at={save.at}
          unit={course.dose_unit}
        />
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
