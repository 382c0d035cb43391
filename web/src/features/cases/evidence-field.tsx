/** One field of what a step shows for itself, entered as its kind asks. */
import type { Schemas } from "@/client/types";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { FormError } from "@/ui/field";
import { NumberField, TextArea, TextField } from "@/ui/fields";

export type Entered = string | string[] | null;

type Props = {
  name: string;
  words: Schemas["FieldWords"];
  needed: boolean;
  value: Entered | undefined;
  error?: string | undefined;
  onChange: (value: Entered) => void;
};

export function EvidenceField({ name, words, needed, value, error, onChange }: Props) {
  const label = needed || words.kind === "day" ? words.label : `${words.label} (optional)`;
  const text = typeof value === "string" ? value : "";
  const field = { label, name, error, value: text, onChange };
  const choices = Object.entries(words.choices ?? {});
  switch (words.kind) {
    case "line":
      return <TextField {...field} maxLength={120} />;
    case "words":
      return <TextArea {...field} />;
    case "day":
      return <DateField {...field} />;
    case "number":
      return <NumberField {...field} unit="" />;
    case "centimetres":
      return <NumberField {...field} unit="cm" />;
    case "choice":
      return <ChoiceField label={label} value={text} options={choices} onChange={onChange} columns={1} error={error} />;
    case "yes_no":
      return (
        <ChoiceField
          label={label}
          value={text}
          options={[
            ["yes", "yes"],
            ["no", "no"],
          ]}
          onChange={onChange}
          error={error}
        />
      );
    case "several":
      return <Several label={label} choices={choices} value={value} error={error} onChange={onChange} />;
    case "none":
      return null;
  }
}

function Several({
  label,
  choices,
  value,
  error,
  onChange,
}: {
  label: string;
  choices: [string, string][];
  value: Entered | undefined;
  error: string | undefined;
  onChange: (value: string[]) => void;
}) {
  const chosen = Array.isArray(value) ? value : [];
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">{label}</legend>
      {choices.map(([id, says]) => (
        <Checkbox
          key={id}
          label={says}
          checked={chosen.includes(id)}
          onChange={(yes) => onChange(yes ? [...chosen, id] : chosen.filter((one) => one !== id))}
        />
      ))}
      {error && <FormError error={new Error(error)} fields={[]} />}
    </fieldset>
  );
}
