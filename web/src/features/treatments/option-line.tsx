/** An option in the list: its name, its verdict for these colonies together, and what it costs. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { VERDICT } from "@/wording/words";
import type { OptionRow } from "./option-rows";

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

export function OptionLine({
  row,
  current,
  onChoose,
  total,
  today,
}: {
  row: OptionRow;
  current: boolean;
  onChoose: () => void;
  total: number;
  today: string;
}) {
  const first = row.per[0]?.judged;
  return (
    <li>
      <button
        type="button"
        onClick={onChoose}
        aria-pressed={current}
        className={clsx(
          "grid min-h-16 w-full gap-0.5 border-b border-line px-3 py-2 text-left",
          current ? "bg-sheet shadow-[inset_4px_0_0_var(--ink)]" : "hover:bg-sheet",
        )}>
        <span className="flex flex-wrap items-baseline justify-between gap-x-3">
          <span className="font-head text-lg font-semibold leading-tight">{row.option.name}</span>
          <VerdictMark verdict={row.all.verdict} />
        </span>
        <span className="text-sm text-ink-2">
          {first?.efficacy && `${first.efficacy.low} to ${first.efficacy.high} % of all mites; `}
          {row.option.visits === 1 ? "1 visit" : `${row.option.visits} visits`}
          {total > 1 && row.all.ready > 0 && `; ${row.all.ready} of ${total} colonies`}
          {row.all.verdict === "not_now" && row.all.from_day && `; from ${shortDay(row.all.from_day, today)}`}
        </span>
      </button>
    </li>
  );
}
