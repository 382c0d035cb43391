/** The forecast day by day, with what it means for a placing: the mark says whether a dose may be placed. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { dayNumber } from "@/ui/dates";
import { temperature, type Units } from "@/ui/units";

const WEEKDAY = ["Su", "Mo", "Tu", "We", "Th", "Fr", "Sa"];

export function ForecastStrip({
  days,
  chosen,
  units,
  limits,
  onChoose,
}: {
  days: Schemas["ForecastDay"][];
  chosen: string;
  units: Units;
  limits?: { min: number | null; max: number | null };
  onChoose?: (day: string) => void;
}) {
  return (
    <ol
      className="grid auto-cols-[minmax(4.4rem,1fr)] grid-flow-col overflow-x-auto border border-line"
      tabIndex={0}
      aria-label="Forecast">
      {days.map((day) => {
        const hot = limits?.max != null && day.tmax_c > limits.max;
        const cold = limits?.min != null && day.tmax_c < limits.min;
        const wet = day.rain_mm >= 5;
        const selected = day.day === chosen;
        const weekday = WEEKDAY[new Date(dayNumber(day.day) * 86_400_000).getUTCDay()];
        const inside = (
          <>
            <span className="block text-sm">
              {weekday} {Number(day.day.slice(8))}
            </span>
            <span className={clsx("block text-lg font-bold leading-tight", !selected && (hot || cold) && "text-act")}>
              {temperature(day.tmax_c, units)}
            </span>
            <span className="block text-sm">{day.rain_mm > 0 ? `${day.rain_mm} mm` : "dry"}</span>
            <span className="block text-xs font-bold">
              {hot ? "too hot" : cold ? "too cold" : wet ? "rain" : "\u00a0"}
            </span>
          </>
        );
        const look = clsx(
          "h-full w-full border-r border-line px-1.5 py-2 text-center",
          selected ? "bg-ink text-sheet" : "bg-sheet text-ink",
        );
        return (
          <li key={day.day}>
            {onChoose ? (
              <button type="button" className={look} aria-pressed={selected} onClick={() => onChoose(day.day)}>
                {inside}
              </button>
            ) : (
              <div className={look}>{inside}</div>
            )}
          </li>
        );
      })}
    </ol>
  );
}
