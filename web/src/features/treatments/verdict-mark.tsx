/** The verdict on an option for a colony: a mark and its word. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { VERDICT } from "@/wording/words";

type Verdict = Schemas["SuitabilityView"]["verdict"];

export function VerdictMark({ verdict }: { verdict: Verdict }) {
  const colour = {
    allowed: "text-clear",
    allowed_with_cautions: "text-watch",
    not_now: "text-course",
    never_here: "text-ink-3",
  }[verdict];
  return (
    <span className={clsx("inline-flex items-center gap-1.5 font-bold", colour)}>
      <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
        {verdict === "allowed" && (
          <path d="M2 8.500 6.500 13 14 3" fill="none" stroke="currentColor" strokeWidth="2.4" />
        )}
        {verdict === "allowed_with_cautions" && (
          <path d="M8 1.500 15 14.500H1zM8 6v4.500M8 12v1" fill="none" stroke="currentColor" strokeWidth="1.8" />
        )}
        {verdict === "not_now" && (
          <path
            d="M3 2h10M3 14h10M4 2c0 5 8 7 8 12M12 2c0 5-8 7-8 12"
            fill="none"
            stroke="currentColor"
            strokeWidth="1.700"
          />
        )}
        {verdict === "never_here" && <path d="M2 8h12" stroke="currentColor" strokeWidth="2.4" />}
      </svg>
      {VERDICT[verdict]}
    </span>
  );
}
