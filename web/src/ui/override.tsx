/** Where a hold stands against an act: who may release it says why, and sends the same form again. */
import type { Problem } from "@/client/types";
import { Field, described } from "@/ui/field";

export function Override({
  problem,
  value,
  onChange,
}: {
  problem: Problem | null;
  value: string;
  onChange: (value: string) => void;
}) {
  if (!problem?.rule?.startsWith("hold_") || !problem.canOverride) return null;
  return (
    <Field label="Do it against the hold, because" name="override_why" error={problem.at("override_why")}>
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
