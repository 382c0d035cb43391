/**
 * Where a hold, a standstill or a withdrawal stands against an act: who takes it on says why, and sends the same form
 * again.
 */
import type { Problem } from "@/client/types";
import { Field, described } from "@/ui/field";

export function Override({
  label = "Do it against the hold, because",
  rule = "hold_",
  problem,
  value,
  onChange,
}: {
  label?: string;
  rule?: string;
  problem: Problem | null;
  value: string;
  onChange: (value: string) => void;
}) {
  if (!problem?.rule?.startsWith(rule) || !problem.canOverride) return null;
  const says = problem.rule === "hold_standstill" ? "It happened anyway, because" : label;
  return (
    <Field label={says} name="override_why" error={problem.at("override_why")}>
      <input
        className="input"
        maxLength={400}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        {...described("override_why", problem.at("override_why"))}
      />
    </Field>
  );
}
