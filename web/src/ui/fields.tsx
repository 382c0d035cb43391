/** Single fields with their label, hint and error: text, dates, numbers with their unit, one of a list. */
import type { ReactNode } from "react";
import { Field, described } from "./field";

type Common = { label: string; name: string; hint?: string; error?: string | undefined; disabled?: boolean };

type TextProps = Common & {
  value: string;
  onChange: (value: string) => void;
  maxLength?: number;
  type?: "email" | "password";
  autoComplete?: string;
  inputMode?: "numeric" | "decimal";
  placeholder?: string;
  autoFocus?: boolean;
};

export function TextField({ label, name, hint, error, value, onChange, ...rest }: TextProps) {
  return (
    <Field label={label} name={name} error={error} {...(hint ? { hint } : {})}>
      <input
        className="input"
        value={value}
        onChange={(event) => onChange(event.target.value)}
        {...rest}
        {...described(name, error, hint !== undefined)}
      />
    </Field>
  );
}

type NumberProps = Common & { value: string; onChange: (value: string) => void; unit: string };

/** A number as it is typed, with its unit beside it also while it is empty; a decimal comma is taken as a point. */
export function NumberField({ label, name, hint, error, value, onChange, unit, ...rest }: NumberProps) {
  return (
    <Field label={label} name={name} error={error} {...(hint ? { hint } : {})}>
      <span className="flex items-center gap-2">
        <input
          inputMode="decimal"
          className="input text-right"
          value={value}
          onChange={(event) => onChange(event.target.value.replace(",", "."))}
          {...rest}
          {...described(name, error, hint !== undefined)}
        />
        <span className="shrink-0 text-ink-2">{unit}</span>
      </span>
    </Field>
  );
}

type SelectProps<T extends string> = Common & {
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
};

/** One of a list. The platform's own control: on a phone it opens as a wheel or a sheet that thumbs know. */
export function SelectField<T extends string>({
  label,
  name,
  hint,
  error,
  value,
  options,
  onChange,
  ...rest
}: SelectProps<T>) {
  return (
    <Field label={label} name={name} error={error} {...(hint ? { hint } : {})}>
      <select
        className="input"
        value={value}
        onChange={(event) => onChange(event.target.value as T)}
        {...rest}
        {...described(name, error, hint !== undefined)}>
        {options.map(([id, text]) => (
          <option key={id} value={id}>
            {text}
          </option>
        ))}
      </select>
    </Field>
  );
}

type AreaProps = { label: string; name: string; error?: string | undefined; value: string } & {
  onChange: (value: string) => void;
};

export function TextArea({ label, name, error, value, onChange }: AreaProps) {
  return (
    <Field label={label} name={name} error={error}>
      <textarea
        className="input"
        rows={2}
        maxLength={2000}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        {...described(name, error)}
      />
    </Field>
  );
}

type FormProps = { onSubmit: () => void; className?: string; children: ReactNode };

/** A form that checks itself and is sent by its button or by Return. */
export function Form({ onSubmit, className = "space-y-4", children }: FormProps) {
  return (
    <form
      noValidate
      className={className}
      onSubmit={(event) => {
        event.preventDefault();
        onSubmit();
      }}>
      {children}
    </form>
  );
}
