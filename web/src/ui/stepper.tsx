/** A number that is stepped, not typed: less, the figure with its unit, more. */
import { clsx } from "clsx";
import { Button } from "@/ui/button";

export function Stepper({
  label,
  value,
  unit = "",
  step = 1,
  least = 0,
  most = 999,
  start = least,
  shown,
  onChange,
  error,
}: {
  label: string;
  value: number | null;
  unit?: string;
  step?: number;
  least?: number;
  most?: number;
  start?: number;
  shown?: (value: number) => string;
  onChange: (value: number | null) => void;
  error?: string | undefined;
}) {
  const go = (by: number) =>
    onChange(value === null ? start : Math.min(most, Math.max(least, Math.round((value + by) * 100) / 100)));
  return (
    <div role="group" aria-label={label}>
      <p className="mb-1 font-semibold" aria-hidden="true">
        {label}
      </p>
      <div className="grid grid-cols-[3.5rem_1fr_3.5rem] items-stretch">
        <Button aria-label={`${label}: less`} disabled={value === null || value <= least} onClick={() => go(-step)}>
          −
        </Button>
        <output
          className={clsx(
            "figure flex items-center justify-center border-y border-line-2 text-xl",
            value === null ? "hatch" : "bg-sheet",
          )}>
          {value === null ? (
            <span className="sr-only">not recorded</span>
          ) : shown ? (
            shown(value)
          ) : (
            `${value}${unit ? ` ${unit}` : ""}`
          )}
        </output>
        <Button aria-label={`${label}: more`} disabled={value !== null && value >= most} onClick={() => go(step)}>
          +
        </Button>
      </div>
      {error && (
        <p role="alert" className="mt-1 font-semibold text-act">
          {error}
        </p>
      )}
    </div>
  );
}
