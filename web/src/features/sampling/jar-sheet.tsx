/** The count in hand: what was measured, its marks, and what they mean so far. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { Term } from "@/features/help/term";
import { RateRule } from "@/instruments/rate-rule";
import { Tally } from "@/instruments/tally";
import { Button } from "@/ui/button";
import { LEVEL_FIGURE, LevelMark } from "@/ui/level";
import { Notice } from "@/ui/page";
import { chance, rate, volume, type Units } from "@/ui/units";
import { useDesk } from "@/ui/use-desk";
import { ADVICE, PLACE_OF_BEES, SCHEME, METHOD, perOf } from "@/wording/words";
import { BoardPicture, TakePicture } from "./board-picture";
import { BoardStart } from "./board-start";
import { JarTimer } from "./jar-timer";
import {
  answer,
  begun,
  boardDays,
  inJar,
  onBoard,
  questionOf,
  restEnds,
  startTimer,
  takePicture,
  type Jar,
  type Answer,
} from "./jars";
import { Meaning } from "./meaning";
import { Question, Warnings } from "./question";
import { useRuler } from "./use-ruler";

function measured(jar: Jar, units: Units): string {
  switch (jar.knownBy) {
    case "counted":
      return `${jar.bees ?? 0} bees counted`;
    case "photo":
      return `${jar.bees ?? 0} bees by photo`;
    case "mass_dry":
      return `${jar.massG ?? 0} g of dry bees`;
    case "not_recorded":
      return "bees not recorded";
    default:
      return `${volume(jar.volumeMl ?? 0, units)} ${jar.knownBy === "volume_heaped" ? "heaped" : "level"}`;
  }
}

function says(jar: Jar, units: Units, ruler: Schemas["Ruler"] | null, now: string): [string, string] {
  const method = METHOD[jar.method].slice(0, 1).toUpperCase() + METHOD[jar.method].slice(1);
  if (onBoard(jar.method)) {
    const days = boardDays(jar, now);
    const grid = jar.squaresInAll > 1 ? `${jar.shakes.length} of ${jar.squaresInAll} squares` : "the whole board";
    const surface =
      `${jar.cleaned === "yes" ? "clean" : jar.cleaned === "no" ? "NOT cleaned" : "not known to be clean"}, ` +
      `${jar.greased === "yes" ? "greased" : jar.greased === "no" ? "bare" : "grease not known"}`;
    return [
      days === null ? method : `${method}, in for ${days.toFixed(1)} days`,
      days === null ? "" : `${grid}; ${surface}`,
    ];
  }
  if (jar.method === "drone_brood")
    return [method, `from ${jar.patches} ${jar.patches === 1 ? "patch" : "patches"}; pupae with pink or purple eyes`];
  if (jar.method === "look") return [method, "kept as a finding, never as a rate"];
  const bees =
    ruler && jar.knownBy !== "counted"
      ? `, about ${Math.round(ruler.exposure)} bees (${Math.round(ruler.exposure_low)} to ` +
        `${Math.round(ruler.exposure_high)})`
      : "";
  const queen =
    jar.method === "wash"
      ? `; queen ${jar.queen === "yes" ? "seen safe" : jar.queen === "no" ? "NOT found" : "not looked for"}`
      : "";
  return [`${method}, ${measured(jar, units)}${bees}`, `${PLACE_OF_BEES[jar.place]}${queen}`];
}

export function JarSheet({
  jar,
  apiaryId,
  meaning,
  queenSeenToday,
  units,
  today,
  now,
  onSetUp,
  onChange,
  onPlace,
}: {
  jar: Jar;
  apiaryId: string;
  queenSeenToday: boolean;
  meaning: Schemas["CountMeaning"] | undefined;
  units: Units;
  today: string;
  now: string;
  onSetUp: () => void;
  onChange: (next: (jar: Jar) => Jar) => void;
  onPlace: (cleaned: Answer, greased: Answer) => void;
}) {
  const { ruler, mark, left, shakeAgain, answer: here } = useRuler(jar, apiaryId, now);
  // While a picture is read nothing else asks for room: what is to be asked comes when it is done.
  const onPicture = !meaning && jar.picture !== null && jar.pictureOpen;
  const question = meaning || onPicture ? null : questionOf(jar);
  const [title, more] = says(jar, units, ruler, now);
  return (
    <section id="jar" role="tabpanel" aria-labelledby={`tab-${jar.id}`} className="min-w-0 pb-4 pt-3 desk:pt-5">
      <SetUpLine title={title} more={more} narrow={onPicture} onSetUp={meaning ? null : onSetUp} />
      {!meaning && onBoard(jar.method) && jar.placedAt === null ? (
        <BoardStart now={now} onPlace={onPlace} onRead={(placedAt) => onChange((one) => ({ ...one, placedAt }))} />
      ) : (
        <>
          {question && (
            <Question
              question={question}
              queenSeenToday={queenSeenToday}
              onAnswer={(given) => onChange((one) => answer(one, question, given))}
            />
          )}
          {!meaning && (jar.method === "sugar" || (jar.method === "wash" && !begun(jar))) && (
            <JarTimer
              jar={jar}
              now={now}
              onStart={() => onChange((one) => startTimer(one, now))}
              onEnd={() => onChange((one) => restEnds(one, now))}
            />
          )}
          {!meaning && !begun(jar) && <Danger method={jar.method} />}
          {!meaning && !onPicture && <Warnings jar={jar} />}
          {!meaning &&
            onBoard(jar.method) &&
            (jar.picture && jar.pictureOpen ? (
              <BoardPicture
                reading={jar.picture}
                onChange={(next) => onChange((one) => (one.picture ? { ...one, picture: next(one.picture) } : one))}
                onDone={() => onChange((one) => takePicture(one, now))}
                onLeave={() => onChange((one) => ({ ...one, picture: null, pictureOpen: false }))}
              />
            ) : !begun(jar) ? (
              <TakePicture
                colonyId={jar.colonyId}
                onRead={(picture) => onChange((one) => ({ ...one, picture, pictureOpen: true }))}
              />
            ) : jar.picture ? (
              <p className="mt-2 text-ink-2">
                Read from a picture.{" "}
                <button
                  type="button"
                  className="min-h-8 underline underline-offset-4"
                  onClick={() => onChange((one) => ({ ...one, pictureOpen: true }))}>
                  Back to its marks
                </button>
              </p>
            ) : null)}
          {!onPicture && <Marks jar={jar} counting={!meaning && jar.picture === null} />}
          {ruler === null && here.isSuccess && inJar(jar.method) && (
            <p className="mt-4 text-ink-2">Bees not recorded: the mites are kept, no rate follows.</p>
          )}
          {here.isError && !meaning && (
            <p className="mt-4 text-ink-2">No connection: go on counting. What it means follows when it is recorded.</p>
          )}
          {ruler && !onPicture && <Rate jar={jar} ruler={ruler} mark={mark} meaning={meaning} />}
          {jar.method === "drone_brood" && !meaning && <Drones jar={jar} />}
          <div className="mt-3 min-h-28">
            {meaning ? (
              <Meaning meaning={meaning} today={today} />
            ) : (
              begun(jar) &&
              mark &&
              ruler && <SoFar jar={jar} ruler={ruler} mark={mark} left={left} again={shakeAgain} />
            )}
          </div>
        </>
      )}
    </section>
  );
}

type SetUpLineProps = { title: string; more: string; narrow: boolean; onSetUp: (() => void) | null };

/** What is in the jar; the way to change it stands under it where a thumb has the width. */
function SetUpLine({ title, more, narrow, onSetUp }: SetUpLineProps) {
  return (
    <div className={clsx("items-start justify-between gap-4", narrow ? "hidden desk:flex" : "desk:flex")}>
      <p className="text-ink-2">
        <strong className="text-ink">{title}</strong>
        {more && <span className="desk:block"> {more}</span>}
      </p>
      {onSetUp && (
        <Button onClick={onSetUp} className="mt-2 w-full shrink-0 desk:mt-0 desk:w-auto">
          Method and sample
        </Button>
      )}
    </div>
  );
}

/** What can hurt whoever counts, said before it is begun. */
function Danger({ method }: { method: Jar["method"] }) {
  if (method === "co2")
    return (
      <div className="mt-3">
        <Notice tone="act">Work in the open: CO2 can suffocate people in a closed car or shed.</Notice>
      </div>
    );
  if (method !== "wash") return null;
  return (
    <p className="mt-2 text-sm text-ink-2">
      Spirit vapour catches fire: smoker and flame well away, lid on, moving air.
    </p>
  );
}

function Marks({ jar, counting }: { jar: Jar; counting: boolean }) {
  if (jar.method === "look") return null;
  if (jar.method === "drone_brood") {
    const rows: [string, number][] = [
      ["Cells opened", jar.opened],
      ["of them infested", jar.infested],
    ];
    if (jar.cellMites !== null) rows.push(["mites in them", jar.cellMites]);
    return (
      <dl className="mt-3 border-t border-line">
        {rows.map(([name, count]) => (
          <div key={name} className="grid grid-cols-[9rem_1fr_3rem] items-center border-b border-line py-1.5">
            <dt>{name}</dt>
            <dd className="text-right">
              <Tally count={count} />
            </dd>
            <dd className="figure text-right text-xl">{count}</dd>
          </div>
        ))}
      </dl>
    );
  }
  const part = onBoard(jar.method)
    ? jar.squaresInAll > 1
      ? "Square"
      : "Board"
    : jar.method === "wash"
      ? "Shake"
      : "Roll";
  const numbered = part === "Shake" || part === "Square";
  const shown = jar.shakes.map((count, index) => ({ count, index })).slice(-8);
  return (
    <ol className="mt-3 border-t border-line" start={(shown[0]?.index ?? 0) + 1}>
      {shown.map(({ count, index }) => (
        <li
          key={index}
          className={clsx(
            "grid grid-cols-[5.5rem_1fr_3rem] items-center border-b border-line py-1.5",
            index === jar.shakes.length - 1 && counting ? "font-bold" : "text-ink-2",
          )}>
          <span>
            {part}
            {numbered ? ` ${index + 1}` : ""}
          </span>
          <span className="text-right">
            <Tally count={count} />
          </span>
          <span className="figure text-right text-xl">{count}</span>
        </li>
      ))}
    </ol>
  );
}

function Rate({
  jar,
  ruler,
  mark,
  meaning,
}: {
  jar: Jar;
  ruler: Schemas["Ruler"];
  mark: Schemas["RulerMark"] | undefined;
  meaning: Schemas["CountMeaning"] | undefined;
}) {
  const reading = meaning?.reading ?? mark ?? null;
  const level = meaning?.judgement?.level ?? mark?.level;
  const shown = begun(jar) && reading;
  const falls = ruler.scale === "mites_per_day";
  const desk = useDesk();
  return (
    <div className="mt-4">
      {/* In the field it stands over the keys while mites are counted. */}
      {(desk || meaning) && (
        <div className="flex items-end gap-4" aria-live="polite">
          <span className={clsx("figure text-[4.2rem]", shown && ruler.in_force && level && LEVEL_FIGURE[level])}>
            {shown ? rate(reading.median) : "–"}
          </span>
          <p className="pb-1.5 text-ink-2">
            <Term id={falls ? "fall" : "rate"}>{falls ? "mites a day" : "mites per 100 bees"}</Term>
            <br />
            {shown ? (
              <strong className="text-ink">
                {rate(reading.low)} to {rate(reading.high)}, <Term id="interval">95 % interval</Term>
              </strong>
            ) : (
              "nothing counted yet"
            )}
          </p>
        </div>
      )}
      <div className="mt-2">
        <RateRule levels={ruler} reading={shown ? reading : null} label={`Count of ${jar.label}`} falls={falls} />
      </div>
      {!ruler.in_force && (
        <p className="mt-1 text-sm text-ink-2">
          Levels of the school “{SCHEME[ruler.scheme]}”. The school followed here does not judge this kind of count.
        </p>
      )}
    </div>
  );
}

function SoFar({
  jar,
  ruler,
  mark,
  left,
  again,
}: {
  jar: Jar;
  ruler: Schemas["Ruler"];
  mark: Schemas["RulerMark"];
  left: number | null;
  again: boolean;
}) {
  const shake =
    jar.method !== "wash"
      ? null
      : jar.shakes.length === 1
        ? "One shake finds about 85 in 100 of the mites: shake again."
        : again
          ? "The last shake still brought mites down: about " +
            `${Math.max(1, Math.round(100 * (left ?? 0)))} % may be left. Shake again.`
          : null;
  return (
    <>
      {ruler.in_force && (
        <p className={clsx("flex items-center gap-2 font-head text-2xl font-semibold", LEVEL_FIGURE[mark.level])}>
          <LevelMark level={mark.level} size={20} />
          {ADVICE[mark.advice]}
        </p>
      )}
      <p className="mt-1 text-ink-2">
        {chance(mark.p_act)} that it is at or over {ruler.act} {perOf(ruler.scheme)}. {shake}
      </p>
    </>
  );
}

function Drones({ jar }: { jar: Jar }) {
  const share = jar.opened > 0 ? `${Math.round((100 * jar.infested) / jar.opened)} %` : "–";
  return (
    <div className="mt-4">
      <div className="flex items-end gap-4" aria-live="polite">
        <span className="figure whitespace-nowrap text-[4.2rem]">{share}</span>
        <p className="pb-1.5 text-ink-2">
          of drone cells infested
          <br />
          {jar.opened < 50
            ? `${50 - jar.opened} more to the 50 that tell something`
            : jar.opened < 100
              ? `enough; 100 are better`
              : "enough"}
        </p>
      </div>
    </div>
  );
}
