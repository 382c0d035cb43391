/** The code of a second factor, asked for once the password was right. */
import type { Problem } from "@/client/types";
import { TextField } from "@/ui/fields";

/** Whether a sign-in asks for a code: the server said so, or one is being entered. */
export function asksForCode(problem: Problem | null, code: string): boolean {
  return code !== "" || problem?.at("code") !== undefined;
}

type Props = { name: string; value: string; onChange: (value: string) => void; error?: string | undefined };

export function CodeField({ error, ...field }: Props) {
  return (
    <TextField
      label="Code"
      autoComplete="one-time-code"
      maxLength={24}
      autoFocus
      hint="Six figures from your authenticator app, or a recovery code"
      // Asked for the first time it is a step, not a fault.
      error={field.value === "" ? undefined : error}
      {...field}
    />
  );
}
