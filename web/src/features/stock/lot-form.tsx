/** A lot entered from its pack and its receipt, or amended with a reason. */
import { useState } from "react";
import { addLot, amendLot } from "@/client/commands/stock";
import type { Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { Checkbox } from "@/ui/checkbox";
import { DateField } from "@/ui/date-field";
import { Dialog } from "@/ui/dialog";
import { NumberField, SelectField, TextArea, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

type Props = {
  options: Schemas["OptionView"][];
  today: string;
  lot?: Schemas["Lot"];
  onClose: () => void;
  onSaved: (id: string) => void;
};

const FIELDS = [
  ...["product", "option_ids", "unit", "quantity", "strength", "lot", "expires_on", "bought_on", "supplier"],
  ...["receipt", "reason"],
];

const fresh = (lot: Schemas["Lot"] | undefined) => ({
  product: lot?.product ?? "",
  unit: lot?.unit ?? "",
  option_ids: lot?.option_ids ?? [],
  quantity: lot ? String(lot.quantity) : "",
  strength: lot?.strength ?? "",
  lot: lot?.lot ?? "",
  expires_on: lot?.expires_on ?? "",
  bought_on: lot?.bought_on ?? "",
  supplier: lot?.supplier ?? "",
  receipt: lot?.receipt ?? "",
  note: lot?.note ?? "",
  reason: "",
});

export function LotForm({ options, today, lot, onClose, onSaved }: Props) {
  const [id] = useState(() => lot?.id ?? crypto.randomUUID());
  const done = useDone(() => onSaved(id));
  const [draft, set, kept] = useDraft(() => fresh(lot), `lot:${lot ? `${lot.id}:${lot.version}` : "new"}`);
  const save = useSave({
    kept,
    act: async () => {
      const { reason, ...rest } = draft;
      const body = {
        ...rest,
        quantity: Number(draft.quantity),
        expires_on: draft.expires_on || null,
        bought_on: draft.bought_on || null,
      };
      await (lot ? amendLot(lot.id, lot.version, { ...body, reason }) : addLot({ ...body, id }));
    },
    check: () => ({
      unit: draft.unit === "" && "Choose what it is measured in.",
      quantity: !(Number(draft.quantity) > 0) && "Say how much was bought.",
    }),
    done,
  });
  const field = bindFields(draft, set, save);
  return (
    <Dialog open onClose={onClose} title={lot ? `Amend: ${lot.product}` : "Add a lot"}>
      <SaveForm save={save} kept={kept} fields={FIELDS} label={lot ? "Amend the lot" : "Add the lot"}>
        <TextField label="Product" hint="As it is written on the pack" maxLength={120} {...field("product")} />
        <UsedFor options={options} draft={draft} set={set} error={save.at("option_ids")} unitError={save.at("unit")} />
        <div className="grid gap-4 desk:grid-cols-2">
          <NumberField label="Quantity" unit={draft.unit} {...field("quantity")} />
          <TextField label="Strength" hint="With its basis" maxLength={80} {...field("strength")} />
          <TextField label="Lot on the pack" maxLength={80} {...field("lot")} name="lot-number" />
          <DateField label="Use by" {...field("expires_on")} />
          <TextField label="Supplier" hint="Name and place" maxLength={120} {...field("supplier")} />
          <DateField label="Bought on" max={today} {...field("bought_on")} />
          <TextField label="Receipt" hint="Invoice or receipt number" maxLength={120} {...field("receipt")} />
        </div>
        <TextArea label="Note" {...field("note")} />
        {lot && <TextField label="Why" hint="The register is amended with it" maxLength={400} {...field("reason")} />}
      </SaveForm>
    </Dialog>
  );
}

type Draft = ReturnType<typeof fresh>;
type UsedForProps = {
  options: Schemas["OptionView"][];
  draft: Draft;
  set: (part: Partial<Draft>) => void;
  error: string | undefined;
  unitError: string | undefined;
};

/** What it is measured in leaves the treatments that are dosed so: crystals in grams serve a solution as well. */
function UsedFor({ options, draft, set, error, unitError }: UsedForProps) {
  const units = [...new Set(options.map((one) => one.dose_unit))].sort();
  const serves = (one: Schemas["OptionView"], unit: string) =>
    one.dose_unit === unit || (unit === "g" && one.mixing !== null);
  const fitting = options.filter((one) => serves(one, draft.unit));
  const choose = (unit: string) =>
    set({
      unit,
      option_ids: options.filter((one) => draft.option_ids.includes(one.id) && serves(one, unit)).map((one) => one.id),
    });
  return (
    <>
      <SelectField
        label="Measured in"
        name="unit"
        error={unitError}
        value={draft.unit}
        options={[["", "choose"] as const, ...units.map((one) => [one, one] as const)]}
        onChange={choose}
      />
      {fitting.length > 0 && (
        <fieldset>
          <legend className="font-semibold">Used for</legend>
          {fitting.map((one) => (
            <Checkbox
              key={one.id}
              label={one.name}
              checked={draft.option_ids.includes(one.id)}
              onChange={() =>
                set({
                  option_ids: draft.option_ids.includes(one.id)
                    ? draft.option_ids.filter((other) => other !== one.id)
                    : [...draft.option_ids, one.id],
                })
              }
            />
          ))}
          {error && (
            <p role="alert" className="font-semibold text-act">
              {error}
            </p>
          )}
        </fieldset>
      )}
    </>
  );
}
