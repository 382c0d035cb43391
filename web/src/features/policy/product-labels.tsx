/** The labels of the products in use: what they say otherwise replaces the catalogue's defaults, option by option. */
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { figureText } from "@/features/treatments/by-label";
import { Button } from "@/ui/button";
import { ChoiceField } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { NumberField, TextArea, TextField } from "@/ui/fields";
import { FIGURE } from "@/wording/words";

type Label = Schemas["ProductLabel"];
type Option = Schemas["CatalogueEntry"];
type Figure = Schemas["ByLabel"]["figure"];

type Props = {
  labels: Label[];
  catalogue: readonly Option[];
  disabled: boolean;
  errorAt: (field: string) => string | undefined;
  onChange: (labels: Label[]) => void;
};

const NUMBERS = [
  "dose_amount",
  "dose_max_per_colony",
  "applications",
  "withdrawal_days",
  "max_uses_per_year",
  "retreat_days",
  "min_daily_max_c",
  "max_daily_max_c",
  "min_frames",
] as const;
const DAYS = ["interval_days", "stay_days"] as const;

export function ProductLabels({ labels, catalogue, disabled, errorAt, onChange }: Props) {
  const [open, setOpen] = useState<Option | null>(null);
  const index = open ? labels.findIndex((one) => one.option === open.id) : -1;
  const nameOf = (label: Label) => catalogue.find((one) => one.id === label.option)?.name ?? label.option;
  const wrong = labels.flatMap((label, at) =>
    ["option", ...NUMBERS, ...DAYS].flatMap((name) => {
      const text = errorAt(`treatment_rules.product_labels[${at}].${name}`);
      return text ? [{ label, name, text }] : [];
    }),
  );
  return (
    <details open={wrong.length > 0 || undefined}>
      <summary className="min-h-8 cursor-pointer py-1 font-semibold underline underline-offset-4">
        Labels of your products: {labels.length === 0 ? "none entered" : labels.length}
      </summary>
      <p className="py-1 text-ink-2">
        What the label of the product that you use says otherwise than the catalogue. It replaces the default, and both
        are shown. A course goes on by the label under which it was planned.
      </p>
      {wrong.map(({ label, name, text }) => (
        <p key={`${label.option}-${name}`} role="alert" className="font-semibold text-act">
          {nameOf(label)}, {FIGURE[name as Figure] ?? name}: {text}
        </p>
      ))}
      <ul>
        {catalogue.map((option) => {
          const label = labels.find((one) => one.option === option.id);
          return (
            <li key={option.id} className="flex flex-wrap items-center justify-between gap-x-3 border-b border-line">
              <span>
                {option.name}
                {label && <span className="block text-sm text-ink-2">{label.product || "label entered"}</span>}
              </span>
              <Button variant="quiet" disabled={disabled} onClick={() => setOpen(option)}>
                {label ? "Change its label" : "Enter its label"}
              </Button>
            </li>
          );
        })}
      </ul>
      <Dialog open={open !== null} onClose={() => setOpen(null)} title={open ? `Label: ${open.name}` : "Label"}>
        {open && (
          <OneLabel
            option={open}
            label={labels[index] ?? null}
            onRemove={() => {
              onChange(labels.filter((one) => one.option !== open.id));
              setOpen(null);
            }}
            onSave={(label) => {
              onChange(index < 0 ? [...labels, label] : labels.map((one, at) => (at === index ? label : one)));
              setOpen(null);
            }}
          />
        )}
      </Dialog>
    </details>
  );
}

type OneProps = { option: Option; label: Label | null; onSave: (label: Label) => void; onRemove: () => void };
type Typed = Record<(typeof NUMBERS)[number] | (typeof DAYS)[number], string>;

const typedOf = (label: Label | null): Typed => {
  const text = (value: number | number[] | null | undefined) =>
    value == null ? "" : Array.isArray(value) ? value.join(" / ") : String(value);
  return Object.fromEntries([...NUMBERS, ...DAYS].map((name) => [name, text(label?.[name])])) as Typed;
};

const triple = (text: string): number[] | null => {
  const days = text
    .split(/[^0-9]+/)
    .filter(Boolean)
    .map(Number);
  return days.length === 3 ? days : null;
};

function OneLabel({ option, label, onSave, onRemove }: OneProps) {
  const units = useSession().person;
  const [typed, setTyped] = useState(() => typedOf(label));
  const [product, setProduct] = useState(label?.product ?? "");
  const [note, setNote] = useState(label?.note ?? "");
  const [supers, setSupers] = useState<string>(label?.supers ?? "");
  const [feeding, setFeeding] = useState(label?.feeding_during == null ? "" : label.feeding_during ? "yes" : "no");
  const [faults, setFaults] = useState<Partial<Typed>>({});
  const usual = (figure: Figure) =>
    `catalogue: ${figureText(figure, option.figures[figure] ?? null, option.dose_unit, units)}`;
  const save = () => {
    const found: Partial<Typed> = {};
    for (const name of NUMBERS)
      if (typed[name] !== "" && !Number.isFinite(Number(typed[name]))) found[name] = "A number";
    for (const name of DAYS)
      if (typed[name] !== "" && !triple(typed[name])) found[name] = "Three numbers of days, as 7 / 7 / 10";
    setFaults(found);
    if (Object.keys(found).length > 0) return;
    const numbers = Object.fromEntries(NUMBERS.map((name) => [name, typed[name] === "" ? null : Number(typed[name])]));
    const days = Object.fromEntries(DAYS.map((name) => [name, typed[name] === "" ? null : triple(typed[name])]));
    onSave({
      option: option.id,
      product: product.trim(),
      note,
      supers: (supers || null) as Label["supers"],
      feeding_during: feeding === "" ? null : feeding === "yes",
      ...numbers,
      ...days,
    });
  };
  const field = (name: (typeof NUMBERS)[number] | (typeof DAYS)[number]) => ({
    label: `${(FIGURE[name][0] ?? "").toUpperCase()}${FIGURE[name].slice(1)}`,
    name: `label-${name}`,
    hint: usual(name),
    error: faults[name],
    value: typed[name],
    onChange: (value: string) => setTyped((old) => ({ ...old, [name]: value })),
  });
  const unit = (name: string) => (name.endsWith("_c") ? "°C" : name.startsWith("dose_") ? option.dose_unit : "");
  return (
    <div className="space-y-4">
      <TextField
        label="Product, as on the pack"
        name="label-product"
        maxLength={120}
        value={product}
        onChange={setProduct}
      />
      <div className="grid gap-4 desk:grid-cols-2">
        {NUMBERS.map((name) => (
          <NumberField key={name} unit={unit(name)} {...field(name)} />
        ))}
        {DAYS.map((name) => (
          <TextField key={name} {...field(name)} placeholder="earliest / ideal / latest" />
        ))}
      </div>
      <ChoiceField
        label="Honey supers"
        value={supers}
        options={[
          ["", "as the catalogue"],
          ["yes", "may stay"],
          ["no", "come off"],
          ["label", "see the label"],
        ]}
        columns={2}
        onChange={setSupers}
      />
      <ChoiceField
        label="Feeding during the course"
        value={feeding}
        options={[
          ["", "as the catalogue"],
          ["yes", "yes"],
          ["no", "no"],
        ]}
        onChange={setFeeding}
      />
      <TextArea label="Note" name="label-note" value={note} onChange={setNote} />
      <div className="flex flex-wrap gap-3">
        <Button variant="main" onClick={save}>
          Take it into the draft
        </Button>
        {label && (
          <Button variant="quiet" onClick={onRemove}>
            Back to the catalogue
          </Button>
        )}
      </div>
    </div>
  );
}
