/** Part of a lot disposed of, lost, or found again. */
import { useState } from "react";
import { changeLot } from "@/client/commands/stock";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { Dialog } from "@/ui/dialog";
import { NumberField, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { oneDecimal } from "@/ui/units";
import { LOT_CHANGE } from "@/wording/words";

type Props = { view: Schemas["LotView"]; today: string; onClose: () => void };
const KINDS = ["disposed", "lost", "found"] as const;
const ASK = { disposed: "How and where", lost: "What became of it", found: "Where from" } as const;

export function ChangeLot({ view, today, onClose }: Props) {
  const done = useDone(onClose);
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    {
      kind: "disposed" as (typeof KINDS)[number],
      quantity: view.left > 0 ? oneDecimal(view.left) : "",
      done_on: today,
      how: "",
    },
    `lot-change:${view.lot.id}`,
  );
  const save = useSave({
    kept,
    act: () => changeLot(view.lot.id, { ...draft, id, quantity: Number(draft.quantity) }),
    check: () => ({ quantity: !(Number(draft.quantity) > 0) && "Say how much." }),
    done,
  });
  const field = bindFields(draft, set, save);
  return (
    <Dialog open onClose={onClose} title={view.lot.product}>
      <SaveForm save={save} kept={kept} fields={["quantity", "done_on", "how"]} label="Record it">
        <ChoiceField
          label="What happened"
          value={draft.kind}
          options={KINDS.map((one) => [one, LOT_CHANGE[one]] as const)}
          onChange={(kind) => set({ kind })}
        />
        <NumberField label="How much" unit={view.lot.unit} {...field("quantity")} />
        <DateField label="On" max={today} {...field("done_on")} />
        <TextField label={ASK[draft.kind]} maxLength={400} {...field("how")} />
      </SaveForm>
    </Dialog>
  );
}
