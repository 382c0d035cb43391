/** What a recorded count means: advice, findings, trend, and the slip with its reasons. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { Details } from "@/ui/details";
import { plural, relativeDay, shortDay } from "@/ui/dates";
import { LEVEL_TEXT, LevelMark } from "@/ui/level";
import { Notice } from "@/ui/page";
import { chance, rate } from "@/ui/units";
import { doubling } from "@/wording/growth";
import { PHASE, SCALE, SCHEME, TREND, levelWord, perOf } from "@/wording/words";

type Judged = Schemas["CountMeaning"];

/** The advice of a count, in a sentence and its reason. */
export function adviceOf(judgement: Schemas["Judgement"], today: string): { title: string; text: string } {
  const over = `${chance(judgement.p_act)} that it is at or over ${judgement.act} ${perOf(judgement.scheme)}`;
  const day = judgement.come_back_on;
  const when = day === null ? "" : day <= today ? "now" : `by ${shortDay(day, today)}, ${relativeDay(day, today)}`;
  switch (judgement.advice) {
    case "treat":
      return { title: "Treat now.", text: `${over}, the act level ${PHASE[judgement.phase]}.` };
    case "second_sample":
      return {
        title: "Take a second sample.",
        text: [
          `${over}: not settled.`,
          judgement.flips !== null &&
            `A second one of the same size would turn the verdict in ${chance(judgement.flips)}.`,
          "Within three days the two are taken together, and half decides.",
        ]
          .filter(Boolean)
          .join(" "),
      };
    case "notify":
      return {
        title: "A mite was found: report it.",
        text: "Keep the mites and a photo. Your authority says whom to tell; nothing is sent from here.",
      };
    case "flag_lead":
      return { title: "Flag it to the programme lead.", text: `${over}. Count again ${when}.` };
    case "endangers_neighbours":
      return {
        title: "It endangers its neighbours.",
        text:
          "Mites spread from here by drifting and robbing. Requeen, isolate, cull, or leave the " +
          "programme: the programme's lead decides.",
      };
    default:
      return judgement.scheme === "any_mite"
        ? { title: `None found. Count again ${when}.`, text: "None found is not the same as none." }
        : { title: `Count again ${when}.`, text: `Only ${over}.` };
  }
}

/** "11 mites in about 302 bees", "24 mites in 3.0 days", "12 of 80 drone cells": what was counted, and against what. */
export function countedOf(count: Schemas["Count"]): string {
  switch (count.method) {
    case "board":
    case "board_after_treatment": {
      const mites = count.squares?.reduce((a, b) => a + b, 0) ?? 0;
      const days = count.placed_at
        ? ((Date.parse(count.taken_at) - Date.parse(count.placed_at)) / 86_400_000).toFixed(1)
        : "?";
      const grid =
        (count.squares_in_all ?? 1) > 1 ? ` on ${count.squares?.length ?? 0} of ${count.squares_in_all} squares` : "";
      return `${plural(mites, "mite")}${grid} in ${days} days`;
    }
    case "drone_brood":
      return `${count.cells_infested} of ${count.cells_opened} drone cells infested`;
    case "look":
      return count.mites_seen ? "mites seen" : "no mite seen";
    default: {
      const mites = count.shakes?.reduce((a, b) => a + b, 0) ?? 0;
      return (
        `${plural(mites, "mite")} in ` +
        `${count.bees_mean ? `about ${Math.round(count.bees_mean)} bees` : "bees not recorded"}`
      );
    }
  }
}

export function Meaning({ meaning, today, compact = false }: { meaning: Judged; today: string; compact?: boolean }) {
  const say = useSentence();
  const { judgement, reading, count } = meaning;
  const advice = judgement ? adviceOf(judgement, today) : null;
  const pressing = judgement?.level === "urgent" || judgement?.advice === "notify";
  return (
    <div className={compact ? "mt-4" : ""}>
      {!compact && judgement && advice && (
        <>
          <p className={clsx("font-head text-2xl font-semibold", pressing && "text-act")}>{advice.title}</p>
          <p className="mt-1 text-ink-2">{advice.text}</p>
          {meaning.last_start && (
            <p className="mt-1">
              Last sensible start before the winter bees of {shortDay(meaning.last_start.winter, today)}:{" "}
              <strong>{shortDay(meaning.last_start.on, today)}</strong>, {meaning.last_start.name.toLowerCase()}.
              {!meaning.last_start.enough && " No single treatment is expected to be enough: plan a second step."}
              {judgement.advice === "treat" && " There is no time for a second sample."}
            </p>
          )}
        </>
      )}
      {!compact && reading && !judgement && <Unjudged meaning={meaning} />}
      {reading === null && count.method !== "look" && (
        <Notice>
          <strong>No rate.</strong> The bees were not recorded, so {countedOf(count).split(" in ")[0]} cannot be set
          against anything. The count is kept.
        </Notice>
      )}
      {meaning.would_find !== null && (
        <p className="mt-2">
          None found: {rate(meaning.would_find)} per 100 bees would have shown with 95 in 100. Less may be there.
        </p>
      )}
      {meaning.findings.length > 0 && (
        <ul className="mt-3 space-y-2">
          {meaning.findings.map((finding) => (
            <li key={`${finding.code}-${finding.field}`}>
              <Notice tone={finding.level === "note" ? "course" : "watch"}>{say(finding)}</Notice>
            </li>
          ))}
        </ul>
      )}
      {!compact && meaning.trend && meaning.trend_since && (
        <p className="mt-3">
          Since {shortDay(meaning.trend_since, today)}: <strong>{TREND[meaning.trend.words]}</strong>
          {doubling(meaning.trend)}
          <span className="text-ink-2"> ({chance(meaning.trend.p_rose_cautious)} that it rose)</span>.
        </p>
      )}
      {reading && (
        <div className="mt-3">
          <Why meaning={meaning} reading={reading} today={today} />
        </div>
      )}
    </div>
  );
}

/** A count of a kind that the school in force does not judge: kept, and what it may stand for. */
function Unjudged({ meaning }: { meaning: Judged }) {
  const { reading, converted, prompt } = meaning;
  if (reading === null) return null;
  return (
    <>
      {reading.scale === "percent_of_cells" && (
        <p className="font-head text-2xl font-semibold">
          {rate(reading.as_counted)} {SCALE[reading.scale]},{" "}
          <span className="whitespace-nowrap">
            {rate(reading.low)} to {rate(reading.high)}
          </span>
        </p>
      )}
      <p className="mt-1 text-ink-2">
        {meaning.use.enters || reading.scale === "percent_of_cells"
          ? `The school followed here (${SCHEME[meaning.scheme]}) does not judge this kind of count: the level stays.`
          : "Kept, but not judged."}
      </p>
      {converted && (
        <p className="mt-2">
          A wash might read about <strong>{rate(converted.median)}</strong> per 100 bees ({rate(converted.low)} to{" "}
          {rate(converted.high)}): converted from the fall, and wide.
          {prompt !== null && prompt >= 0.5 && (
            <strong className="block">{chance(prompt)} that it is over the act level: take a jar and wash it.</strong>
          )}
        </p>
      )}
    </>
  );
}

/** Which count a school of another scale judges. */
function elsewhere(other: Schemas["SchemeView"], count: Judged["count"], today: string): string {
  const board = other.unit === "mites per day";
  if (board === count.method.startsWith("board") && other.on === count.taken_on) return "";
  return `, ${board ? "board" : "jar"} of ${shortDay(other.on, today)}`;
}

function Why({ meaning, reading, today }: { meaning: Judged; reading: Schemas["Reading"]; today: string }) {
  const { judgement, count, removal, pair } = meaning;
  const missed = count.method === "wash" ? "a wash leaves on the bees" : "the roll leaves on the bees";
  return (
    <Details title="Why">
      <p>
        <strong className="text-ink">Counted:</strong> {countedOf(count)}
        {reading.bees_cv != null &&
          (reading.bees_cv > 0 ? ` (give or take ${Math.round(100 * reading.bees_cv)} %)` : ", counted")}
        : {rate(reading.as_counted)} {SCALE[reading.scale]}
        {reading.scale === "mites_per_100" ? ` as counted, ${rate(reading.median)} with what ${missed},` : ","} 95 %
        interval {rate(reading.low)} to {rate(reading.high)}.
        {(reading.board_cv ?? 0) > 0 &&
          ` The squares differ, which adds ${Math.round(100 * (reading.board_cv ?? 0))} % of doubt.`}
      </p>
      {pair && (
        <p>
          <strong className="text-ink">Second sample:</strong> taken together with the first, {pair.mites} mites in
          about {Math.round(pair.bees_mean ?? 0)} bees: {rate(pair.median)} per 100 ({rate(pair.low)} to{" "}
          {rate(pair.high)}).
        </p>
      )}
      {judgement && judgement.scheme !== "any_mite" && (
        <p>
          <strong className="text-ink">Compared with:</strong> {SCHEME[judgement.scheme]}, {PHASE[judgement.phase]}:
          watch {judgement.watch}, act {judgement.act}, urgent {judgement.urgent} {perOf(judgement.scheme)}. Chance of
          being over: {chance(judgement.p_watch)}, {chance(judgement.p_act)}, {chance(judgement.p_urgent)}.
        </p>
      )}
      {removal && removal.share_left !== null && (
        <p>
          <strong className="text-ink">Shakes:</strong> about {Math.round(100 * removal.share_left)} % of the mites may
          still be on the bees
          {removal.depleting === false && "; the shakes do not fall off"}.
        </p>
      )}
      {meaning.views.length > 0 && (
        <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <strong className="text-ink">Other schools:</strong>
          {meaning.views.map((other) => (
            <span key={other.scheme} className={clsx("inline-flex items-center gap-1", LEVEL_TEXT[other.level])}>
              <LevelMark level={other.level} size={13} />
              {other.name}: {levelWord(other.level, other.scheme)}
              {other.scheme === "any_mite"
                ? ""
                : " (act at " +
                  `${other.act_at}${other.unit === "mites per day" ? " a day" : ""}${elsewhere(other, count, today)})`}
            </span>
          ))}
        </p>
      )}
      <p>
        <strong className="text-ink">Would change it:</strong>{" "}
        {reading.scale === "mites_per_day"
          ? "a second board, or a wash"
          : "a second jar of the same size, a better count of the bees"}
        , or the season's next threshold. Policy version {meaning.policy_version}
        {meaning.own_policy && ", with this apiary's own departures"}; method: counting, thresholds.
      </p>
    </Details>
  );
}
