/** Did it work: the word, the share killed with its interval, the counts behind it, and what is left. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { Term } from "@/features/help/term";
import { Details } from "@/ui/details";
import { shortDay } from "@/ui/dates";
import { chance, rate } from "@/ui/units";
import { OUTCOME, WHY_NOT } from "@/wording/words";

const percent = (value: number): string => (value > 99.5 ? "over 99" : String(Math.round(value)));
const at = (value: number): string => `${Math.min(100, Math.max(0, value))}%`;

export function VerdictSheet({ verdict, today }: { verdict: Schemas["CourseVerdict"]; today: string }) {
  const over = (verdict.residual_p_act ?? 0) >= 0.5;
  const expected = Math.round(verdict.target_pct);
  const bad = verdict.word === "failed" || over;
  return (
    <section aria-labelledby="verdict" className="border-t-4 border-ink pt-3">
      <h2 id="verdict" className={clsx("text-3xl", bad && "text-act")}>
        {OUTCOME[verdict.word]}
        {over
          ? ", and it is still over: treat again"
          : verdict.word === "cannot_tell_yet" && (verdict.residual_p_act ?? 1) < 0.2
            ? ", but it is below the act level"
            : ""}
        .
      </h2>
      {verdict.why_not && (
        <p className="mt-1 text-ink-2">
          {WHY_NOT[verdict.why_not] ?? ""}
          {verdict.pre_mites_needed !== null &&
            ` With no mite left, ${verdict.pre_mites_needed} mites or more before would have shown ` + `${expected} %.`}
        </p>
      )}
      {verdict.median_pct !== null && verdict.low_pct !== null && verdict.high_pct !== null && (
        <>
          <div className="mt-3 flex items-end gap-4">
            <span className="figure shrink-0 whitespace-nowrap text-6xl">
              {verdict.median_pct > 0 ? `${percent(verdict.median_pct)} %` : "none"}
            </span>
            <p className="pb-1 text-ink-2">
              <Term id="efficacy">of the mites killed</Term>
              {verdict.median_pct > 0 ? "" : ": there are more than before"}
              <br />
              <strong className="text-ink">
                {verdict.low_pct > 0 ? percent(verdict.low_pct) : "none"} to {percent(Math.max(0, verdict.high_pct))} %
              </strong>
              , <Term id="interval">95 % interval</Term>
            </p>
          </div>
          <div
            className="relative mt-3 h-9 border-y border-line-2 bg-sheet"
            role="img"
            aria-label={
              `Killed ${percent(verdict.median_pct)} %, between ${percent(verdict.low_pct)} and ` +
              `${percent(verdict.high_pct)} %; expected at least ${expected} %`
            }>
            <div className="absolute inset-y-0 right-0 bg-clear-wash" style={{ left: at(verdict.target_pct) }} />
            <div className="absolute inset-y-0 w-0.5 bg-clear" style={{ left: at(verdict.target_pct) }} />
            <div
              className="absolute top-1/2 h-1.5 -translate-y-1/2 bg-ink"
              style={{ left: at(verdict.low_pct), right: `calc(100% - ${at(verdict.high_pct)})` }}
            />
            <div
              className="absolute top-1/2 h-7 w-3 -translate-x-1/2 -translate-y-1/2 border-[3px] border-ink bg-sheet"
              style={{ left: at(verdict.median_pct) }}
            />
          </div>
          <div className="relative h-6 text-sm text-ink-2" aria-hidden="true">
            <span className="absolute left-0">0 %</span>
            {/* To the left of its notch where the scale ends soon after it. */}
            <span
              className={clsx("absolute whitespace-nowrap", expected > 50 ? "-translate-x-full" : "-translate-x-1/2")}
              style={{ left: at(verdict.target_pct) }}>
              expected {expected} %
            </span>
            <span className="absolute right-0">100 %</span>
          </div>
        </>
      )}
      <dl className={clsx("mt-3 grid gap-x-6 gap-y-2", verdict.neighbours ? "grid-cols-3" : "grid-cols-2")}>
        {(
          [
            ["before", verdict.pre],
            ["after", verdict.post],
          ] as const
        ).map(([label, side]) => (
          <div key={label} className="border-t border-line pt-1">
            <dt className="text-sm text-ink-2">
              {label}
              {side ? `, ${shortDay(side.taken_on, today)}` : ""}
            </dt>
            <dd>
              {side && side.median !== null ? (
                <>
                  <span className="figure text-2xl">{rate(side.median)}</span> per 100
                  <span className="block text-sm text-ink-2">
                    {side.mites} mites in about {Math.round(side.bees ?? 0)} bees
                  </span>
                </>
              ) : (
                "no count"
              )}
            </dd>
          </div>
        ))}
        {verdict.neighbours && (
          <div className="border-t border-line pt-1">
            <dt className="text-sm text-ink-2">untreated neighbours</dt>
            <dd>
              <span className="figure text-2xl">
                {rate(verdict.neighbours.before)} to {rate(verdict.neighbours.after)}
              </span>{" "}
              per 100
              <span className="block text-sm text-ink-2">{verdict.controls.join(", ")}, in the same weeks</span>
            </dd>
          </div>
        )}
      </dl>
      <div className="mt-3">
        <Details title="Why">
          {verdict.p_target !== null && verdict.p_half !== null && (
            <p>
              Chance that it killed {Math.round(verdict.target_pct)} % or more: {chance(verdict.p_target)}; half or
              more: {chance(verdict.p_half)}. "Worked" needs 80 in 100 for the first, "failed" 80 in 100 against the
              second.
            </p>
          )}
          <p>
            {verdict.controls.length > 0
              ? `Corrected by ${verdict.controls.length} untreated ` +
                `${verdict.controls.length === 1 ? "neighbour" : "neighbours"} ` +
                `(${verdict.controls.join(", ")}), counted in the same weeks.`
              : "No untreated neighbours were counted in the same weeks: the change is taken as it is."}
            {verdict.projected &&
              " The count before was more than 7 days old and was projected with the season's growth."}
          </p>
          {verdict.residual_p_act !== null && (
            <p>
              Left: {chance(verdict.residual_p_act)} that it is at or over {verdict.act_per_100} per 100 bees. The level
              follows this, never the share killed.
            </p>
          )}
          <p>
            Policy version {verdict.policy_version}; method: verification. Count again 28 to 35 days later for rebound
            and reinvasion.
          </p>
        </Details>
      </div>
    </section>
  );
}
