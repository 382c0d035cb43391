/** Yes or no, as a box to tick; its label stands beside it, or is only heard where the row says it already. */
import { clsx } from "clsx";
import { Checkbox as Radix } from "radix-ui";

type Props = {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
  hidden?: boolean;
  disabled?: boolean;
};

export function Checkbox({ label, checked, onChange, hidden = false, disabled = false }: Props) {
  return (
    <label className="flex min-h-14 min-w-14 items-center gap-2 desk:min-h-11 desk:min-w-8">
      <Radix.Root
        checked={checked}
        disabled={disabled}
        onCheckedChange={(next) => onChange(next === true)}
        className={clsx(
          "flex h-5 w-5 shrink-0 items-center justify-center border-2 border-ink bg-sheet",
          "disabled:border-line-2",
        )}>
        <Radix.Indicator>
          <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
            <path d="M2 7.500 5.500 11 12 3.500" fill="none" stroke="var(--ink)" strokeWidth="2.4" />
          </svg>
        </Radix.Indicator>
      </Radix.Root>
      <span className={hidden ? "sr-only" : ""}>{label}</span>
    </label>
  );
}
