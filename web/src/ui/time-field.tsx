/** A time of the day as it is written on a slip, "23:35", whatever the device would show; "2335" is taken too. */
import { Field, described } from "./field";

type Props = {
  label: string;
  name: string;
  error?: string | undefined;
  value: string;
  onChange: (time: string) => void;
};

/** "7:05" and "705" as "07:05"; what is no time stays as it was typed. */
export function asTime(typed: string): string {
  const found = /^(\d{1,2})[:.]?(\d{2})$/.exec(typed.trim());
  if (!found) return typed;
  const [, hours = "", minutes = ""] = found;
  return Number(hours) < 24 && Number(minutes) < 60 ? `${hours.padStart(2, "0")}:${minutes}` : typed;
}

export function TimeField({ label, name, error, value, onChange }: Props) {
  return (
    <Field label={label} name={name} error={error}>
      <input
        className="input text-center"
        inputMode="numeric"
        maxLength={5}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        onBlur={() => onChange(asTime(value))}
        {...described(name, error, false)}
      />
    </Field>
  );
}
