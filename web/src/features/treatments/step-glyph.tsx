/** The mark of a step: done, to be done, overdue, waiting for the weather, still to come. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";

type Step = Schemas["StepView"];

export function StepGlyph({ state }: { state: Step["state"] }) {
  const colour =
    state === "overdue"
      ? "text-act"
      : state.startsWith("done")
        ? "text-clear"
        : state === "pending" || state === "cancelled" || state === "skipped"
          ? "text-ink-3"
          : "text-course";
  return (
    <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true" className={clsx("mt-1 shrink-0", colour)}>
      {state.startsWith("done") && (
        <path d="M2.500 9.500 7 14 15.500 4" fill="none" stroke="currentColor" strokeWidth="2.600" />
      )}
      {(state === "ready" || state === "overdue") && (
        <path
          d="M4 17V2h10l-3 3.500L14 9H4"
          fill={state === "overdue" ? "currentColor" : "none"}
          stroke="currentColor"
          strokeWidth="2"
        />
      )}
      {state === "waiting_for_weather" && (
        <path
          d="M9 2c3 4.200 4.600 6.600 4.600 9a4.600 4.600 0 0 1-9.200 0C4.400 8.600 6 6.200 9 2z"
          fill="none"
          stroke="currentColor"
          strokeWidth="2"
        />
      )}
      {state === "pending" && <circle cx="9" cy="9" r="3" fill="currentColor" />}
      {(state === "skipped" || state === "cancelled") && <path d="M3 9h12" stroke="currentColor" strokeWidth="2" />}
    </svg>
  );
}
