/** Fields of forms: label, hint and error tied to what is typed. */
import type { ReactNode } from "react";
import { Problem } from "@/client/types";

export function Field({
  label,
  hint,
  error,
  children,
  name,
}: {
  label: string;
  name: string;
  hint?: string;
  error?: string | undefined;
  children: ReactNode;
}) {
  return (
    <div>
      <label htmlFor={name} className="mb-1 block font-semibold">
        {label}
      </label>
      {children}
      {hint && (
        <p id={`${name}-hint`} className="mt-1 text-sm text-ink-2">
          {hint}
        </p>
      )}
      {error && (
        <p id={`${name}-error`} role="alert" className="mt-1 font-semibold text-act">
          {error}
        </p>
      )}
    </div>
  );
}

/** Attributes that tie an input to its hint and its error. */
export function described(name: string, error?: string, hint = false) {
  const ids = [error ? `${name}-error` : "", hint ? `${name}-hint` : ""].filter(Boolean).join(" ");
  return { id: name, name, "aria-invalid": error ? true : undefined, "aria-describedby": ids || undefined };
}

/** The message under a form that no single field caused. */
export function FormError({ error, fields }: { error: unknown; fields: string[] }) {
  if (!(error instanceof Error)) return null;
  if (error instanceof Problem && error.faults.some((fault) => fields.includes(fault.field.split("[")[0] ?? "")))
    return null;
  return (
    <p role="alert" className="font-semibold text-act">
      {error.message}
    </p>
  );
}

/** What went wrong with an act, in a line; nothing where nothing did. */
export function ErrorText({ error }: { error: Error | null }) {
  if (error === null) return null;
  return (
    <p role="alert" className="w-full font-semibold text-act">
      {error.message}
    </p>
  );
}
