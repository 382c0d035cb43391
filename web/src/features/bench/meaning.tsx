/** What a recorded count means: advice, findings, trend, and the slip with its reasons. */
import type { Schemas } from "@/client/api";
import { Slip } from "@/instruments/slip";
import { relativeDay, shortDay } from "@/ui/dates";
import { LEVEL_TEXT, LevelMark, Notice } from "@/ui/parts";
import { chance, rate } from "@/ui/units";
import { LEVEL, PHASE, SCHOOL, TREND } from "@/wording/words";

type Judged = Schemas["CountMeaning"];

/** The advice of a count, in a sentence and its reason. */
export function adviceOf(judgement: Schemas["Judgement"], today: string): { title: string; text: string } {
  const over = `${chance(judgement.p_act)} that it is at or over ${judgement.act} per 100`;
  if (judgement.advice === "treat") return { title: "Treat now.", text: `${over}, the act level ${PHASE[judgement.phase]}.` };
  if (judgement.advice === "second_sample") {
    return { title: "Take a second sample.", text: `${over}: not settled. A second jar from another brood frame decides.` };
  }
  const day = judgement.come_back_on;
  const when = day === null ? "" : day <= today ? "now" : `by ${shortDay(day, today)}, ${relativeDay(day, today)}`;
  return { title: `Count again ${when}.`, text: `Only ${over}.` };
}

export function Meaning({ meaning, today, compact = false }: { meaning: Judged; today: string; compact?: boolean }) {
  const { judgement, reading, count, removal } = meaning;
  const mites = count.shakes.reduce((sum, one) => sum + one, 0);
  const told = judgement ? adviceOf(judgement, today) : null;
  return (
    <div className={compact ? "mt-4" : ""}>
      {!compact && judgement && told && (
        <>
          <p className={`font-head text-2xl font-semibold ${judgement.advice === "treat" ? "text-act" : ""}`}>{told.title}</p>
          <p className="mt-1 text-ink-2">{told.text}</p>
        </>
      )}
      {reading === null && (
        <Notice>
          <strong>No rate.</strong> The bees were not recorded, so {mites} mites cannot be set against anything. The count is kept.
        </Notice>
      )}
      {meaning.findings.length > 0 && (
        <ul className="mt-3 space-y-2">
          {meaning.findings.map((finding) => (
            <li key={finding.code}>
              <Notice tone={finding.level === "note" ? "course" : "watch"}>{finding.message}</Notice>
            </li>
          ))}
        </ul>
      )}
      {meaning.trend && meaning.trend_since && (
        <p className="mt-3">
          Since {shortDay(meaning.trend_since, today)}: <strong>{TREND[meaning.trend.words]}</strong>
          {meaning.trend.doubling_days !== null && meaning.trend.low_per_day > 0 && `, doubling in about ${Math.round(meaning.trend.doubling_days)} days`}
          {meaning.trend.doubling_days !== null && meaning.trend.low_per_day <= 0 && "; it may not be rising"}
          <span className="text-ink-2"> ({chance(meaning.trend.p_rose_cautious)} that it rose)</span>.
        </p>
      )}
      {judgement && reading && (
        <div className="mt-3">
          <Slip title="Why">
            <p>
              <strong className="text-ink">Counted:</strong> {mites} mites in about {Math.round(reading.bees_mean)} bees
              {reading.bees_cv > 0 ? ` (give or take ${Math.round(100 * reading.bees_cv)} %)` : ", counted"}: {rate(reading.as_counted)} per 100 as counted,{" "}
              {rate(reading.median)} with what a wash leaves on the bees, 95 % interval {rate(reading.low)} to {rate(reading.high)}.
            </p>
            <p>
              <strong className="text-ink">Compared with:</strong> {SCHOOL[judgement.school]}, {PHASE[judgement.phase]}: watch {judgement.watch}, act {judgement.act}, urgent{" "}
              {judgement.urgent} per 100 bees. Chance of being over: {chance(judgement.p_watch)}, {chance(judgement.p_act)}, {chance(judgement.p_urgent)}.
            </p>
            {removal && removal.share_left !== null && (
              <p>
                <strong className="text-ink">Shakes:</strong> about {Math.round(100 * removal.share_left)} % of the mites may still be on the bees
                {removal.depleting === false && "; the shakes do not fall off"}.
              </p>
            )}
            <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
              <strong className="text-ink">Other schools:</strong>
              {judgement.others.map((other) => (
                <span key={other.school} className={`inline-flex items-center gap-1 ${LEVEL_TEXT[other.level]}`}>
                  <LevelMark level={other.level} size={13} />
                  {other.name}: {LEVEL[other.level]} (act at {other.act_per_100})
                </span>
              ))}
            </p>
            <p>
              <strong className="text-ink">Would change it:</strong> a second jar of the same size, a better count of the bees, or the season's next threshold. Policy version{" "}
              {meaning.policy_version}; method: counting, thresholds.
            </p>
          </Slip>
        </div>
      )}
    </div>
  );
}
