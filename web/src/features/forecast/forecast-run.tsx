/** How far the forecasts of all colonies have come, or when they were made. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { colonies } from "@/wording/words";

export function ForecastRunLine({ run, today }: { run: Schemas["AssociationForecast"]["run"]; today: string }) {
  if (run === null) return null;
  if (run.state === "waiting" || run.state === "running") {
    const share = run.colonies > 0 ? run.done / run.colonies : 0;
    return (
      <div
        className="mt-4"
        role="progressbar"
        aria-label="Forecasts"
        aria-valuemin={0}
        aria-valuemax={run.colonies}
        aria-valuenow={run.done}>
        <p className="text-ink-2">
          {run.state === "waiting"
            ? "Waiting for its turn …"
            : `${run.done} of ${colonies(run.colonies)} computed. You can leave this page.`}
        </p>
        <div className="mt-1 h-2 bg-line">
          <div className="h-2 bg-ink" style={{ width: `${100 * share}%` }} />
        </div>
      </div>
    );
  }
  const by = run.asked_by_name ? `asked for by ${run.asked_by_name}` : "overnight";
  return (
    <p className={clsx("mt-2", run.state === "failed" ? "font-semibold text-act" : "text-sm text-ink-2")}>
      {run.state === "failed"
        ? `The last computation failed: ${run.note}. What stands here is older.`
        : `Forecasts of ${colonies(run.colonies)} computed for ${shortDay(run.for_day, today)}, ${by}.`}
    </p>
  );
}
