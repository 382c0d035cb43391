/** A day as practitioners write it, stepped day by day, with the calendar behind it. */
import { clsx } from "clsx";
import { useRef } from "react";
import { moment } from "./clock";
import { addDays, shortDay, weekday } from "./dates";
import { Field, described } from "./field";

type Props = {
  label: string;
  name: string;
  hint?: string;
  error?: string | undefined;
  value: string;
  onChange: (day: string) => void;
  min?: string;
  max?: string;
};

const STEP = clsx(
  "min-h-14 w-14 shrink-0 border border-line-2 bg-sheet text-xl font-semibold disabled:text-ink-3",
  "desk:min-h-11 desk:w-10",
);

export function DateField({ label, name, hint, error, value, onChange, min, max }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const today = moment().slice(0, 10);
  const step = (by: number) => onChange(value === "" ? (max ?? min ?? today) : addDays(value, by));
  const outside = (day: string) => (min !== undefined && day < min) || (max !== undefined && day > max);
  return (
    <Field label={label} name={name} error={error} {...(hint ? { hint } : {})}>
      <div className="flex">
        <button
          type="button"
          aria-label={`${label}: the day before`}
          disabled={value !== "" && outside(addDays(value, -1))}
          className={clsx(STEP, "border-r-0")}
          onClick={() => step(-1)}>
          −
        </button>
        <div
          className={clsx(
            "relative flex min-h-14 min-w-0 flex-1 items-center justify-center border bg-sheet px-2 text-center",
            "desk:min-h-11",
            "focus-within:outline-[3px] focus-within:outline-offset-2 focus-within:outline-course",
            error ? "border-2 border-act" : "border-line-2",
          )}>
          <span aria-hidden="true" className={value === "" ? "text-ink-2" : "font-semibold"}>
            {value === "" ? "choose a day" : `${weekday(value).slice(0, 3)} ${shortDay(value, today)}`}
          </span>
          {/* The platform's own calendar: it takes the whole field, and what it holds is written above as days are. */}
          <input
            ref={input}
            type="date"
            className="absolute -inset-px h-[calc(100%+2px)] w-[calc(100%+2px)] cursor-pointer opacity-0"
            value={value}
            min={min}
            max={max}
            onClick={() => input.current?.showPicker()}
            onChange={(event) => onChange(event.target.value)}
            {...described(name, error, hint !== undefined)}
          />
        </div>
        <button
          type="button"
          aria-label={`${label}: the day after`}
          disabled={value !== "" && outside(addDays(value, 1))}
          className={clsx(STEP, "border-l-0")}
          onClick={() => step(1)}>
          +
        </button>
      </div>
    </Field>
  );
}
