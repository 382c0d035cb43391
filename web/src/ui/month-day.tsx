/** A day of the year, as day and month; kept as MM-DD, the way a calendar takes it, or nothing. */
import { MONTH_NAMES } from "./dates";
import { described } from "@/ui/field";

export function MonthDay({
  name,
  label,
  value,
  onChange,
  error,
  none = "not here",
  disabled = false,
}: {
  name: string;
  label: string;
  value: string | null;
  onChange: (value: string | null) => void;
  error?: string | undefined;
  none?: string;
  disabled?: boolean;
}) {
  const [month = "", day = ""] = value?.split("-") ?? [];
  return (
    <fieldset className="border-b border-line py-2" disabled={disabled}>
      <div className="gap-x-4 gap-y-1 desk:flex desk:items-center desk:justify-between">
        <legend className="mb-1 font-semibold desk:mb-0">{label}</legend>
        <div className="flex items-center gap-2 desk:justify-end">
          {value !== null && (
            <input
              type="number"
              min={1}
              max={31}
              className="input w-20!"
              aria-label={`${label}: day`}
              value={Number(day)}
              {...described(name, error)}
              onChange={(event) =>
                onChange(
                  `${month}-${String(Math.max(1, Math.min(31, Number(event.target.value) || 1))).padStart(2, "0")}`,
                )
              }
            />
          )}
          <select
            className="input w-40!"
            aria-label={`${label}: month`}
            value={month}
            onChange={(event) => onChange(event.target.value === "" ? null : `${event.target.value}-${day || "01"}`)}>
            <option value="">{none}</option>
            {MONTH_NAMES.map((text, index) => (
              <option key={text} value={String(index + 1).padStart(2, "0")}>
                {text}
              </option>
            ))}
          </select>
        </div>
      </div>
      {error && (
        <p id={`${name}-error`} role="alert" className="mt-1 font-semibold text-act">
          {error}
        </p>
      )}
    </fieldset>
  );
}
