/** Next steps after what was seen: figures with their ranges, findings with their reasons, the queen, the trends. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { plural, shortDay } from "@/ui/dates";
import { Notice, SectionHeading } from "@/ui/page";
import { oneDecimal, weight, type Units } from "@/ui/units";
import { useReasons, useSentence } from "@/features/session/use-sentence";
import { CRITERION } from "@/wording/sentences";
import { grouped } from "@/ui/figures";
import { EXPECTED, colonies } from "@/wording/words";
import type { View } from "./visit-queue";

const bees = (value: number) => grouped(Math.round(value / 100) * 100);
const TREND: Record<Schemas["VisitTrend"]["name"], string> = {
  frames_of_bees: "frames of bees",
  seams_of_bees: "seams of bees",
  frames_of_brood: "frames of brood",
  stores_kg: "stores",
};
const BASIS: Record<NonNullable<Schemas["Estimates"]["bees_by"]>, string> = {
  combs: "From all combs, by eye, give or take a fifth",
  extrapolated: "From most of the combs, the others taken to be half as full",
  frames: "From the frames of bees that you gave for the whole hive",
  seams: "From the seams of bees",
  hefting: "By hefting",
  weighing: "By weighing",
};
const VERDICT: Record<Schemas["Criterion"]["verdict"], string> = { keep: "keep", watch: "watch", replace: "replace" };

/** The figures over the plan: what the hive holds, as far as it was looked at. */
export function Figures({ view }: { view: View }) {
  const units = useSession().person;
  const { estimates } = view.assessment;
  const { on_combs: onCombs, hive } = estimates;
  const known = estimates.frames_of_bees ?? estimates.seams_of_bees;
  if (known === null && estimates.frames_of_brood === null && !estimates.stores_kg && hive.seen === 0)
    return <p className="text-ink-2">Nothing recorded about this colony yet.</p>;
  const seen = [
    onCombs.frames_of_bees !== null && known === null && `${oneDecimal(onCombs.frames_of_bees)} frames of bees`,
    onCombs.frames_of_brood !== null &&
      estimates.frames_of_brood === null &&
      plural(onCombs.frames_of_brood, "frame of brood", "frames of brood"),
    onCombs.stores_kg !== null && !estimates.stores_kg && `${weight(onCombs.stores_kg, units)} of stores`,
  ].filter(Boolean);
  return (
    <dl className="flex flex-wrap gap-x-7 gap-y-1" aria-live="polite">
      {known !== null && (
        <div>
          <dt className="sr-only">Bees</dt>
          <dd>
            <span className="figure text-2xl">{oneDecimal(known)}</span>{" "}
            {estimates.frames_of_bees === null && estimates.seams_of_bees !== null ? "seams" : "frames"} of bees
            {estimates.adults && (
              <span className="text-ink-2">
                {" "}
                ({bees(estimates.adults.low)} to {bees(estimates.adults.high)})
              </span>
            )}
          </dd>
        </div>
      )}
      {estimates.frames_of_brood !== null && (
        <div>
          <dt className="sr-only">Brood</dt>
          <dd>
            <span className="figure text-2xl">{estimates.frames_of_brood}</span> frames of brood
          </dd>
        </div>
      )}
      {estimates.stores_kg && (
        <div>
          <dt className="sr-only">Stores</dt>
          <dd>
            <span className="figure text-2xl">{weight(estimates.stores_kg.value, units)}</span> stores
          </dd>
        </div>
      )}
      {hive.seen > 0 && hive.seen < hive.hanging && (
        <div>
          <dt className="sr-only">Combs looked at</dt>
          <dd className="text-ink-2">
            {hive.seen} of {hive.hanging} combs seen
            {seen.length > 0 && `, on them ${seen.join(", ")}`}
          </dd>
        </div>
      )}
      {estimates.balance && estimates.eggs && estimates.open && estimates.capped && estimates.eggs.value > 0 && (
        <div>
          <dt className="sr-only">Ages</dt>
          <dd>
            eggs : open : sealed{" "}
            <span className="figure text-2xl">
              1 : {oneDecimal(estimates.open.value / estimates.eggs.value)} :{" "}
              {oneDecimal(estimates.capped.value / estimates.eggs.value)}
            </span>
          </dd>
        </div>
      )}
    </dl>
  );
}

type Props = { view: View; units: Units };

export function NextSteps({ view }: { view: View }) {
  const units = useSession().person;
  return (
    <div className="space-y-6">
      <Findings view={view} />
      <Estimates view={view} units={units} />
      <Trends view={view} units={units} />
      <QueensWorth view={view} />
    </div>
  );
}

const ORDER = { act: 0, watch: 1, note: 2 } as const;
const TONE = { act: "act", watch: "watch", note: "course" } as const;

export function Findings({ view: { assessment, today } }: Pick<Props, "view">) {
  const say = useSentence();
  const reasons = useReasons();
  return (
    <section aria-labelledby="next-steps">
      <SectionHeading id="next-steps">Next steps</SectionHeading>
      <ul className="mt-3 space-y-3">
        {[...assessment.findings]
          .sort((a, b) => ORDER[a.level] - ORDER[b.level])
          .map((one) => (
            <li key={one.code}>
              <Notice tone={TONE[one.level]}>
                <strong className={one.level === "act" ? "text-act" : ""}>{say(one)}</strong>
                {one.because.length > 0 && (
                  <span className="block text-sm text-ink-2">Because: {reasons(one.because)}.</span>
                )}
                {one.dates.map((day) => (
                  <span key={day.event} className="block text-sm">
                    {EXPECTED[day.event] ?? day.event}: <strong>{shortDay(day.typical, today)}</strong> (
                    {shortDay(day.early, today)} to {shortDay(day.late, today)})
                  </span>
                ))}
              </Notice>
            </li>
          ))}
      </ul>
    </section>
  );
}

function Estimate({ name, of, show }: { name: string; of: Schemas["Estimate"]; show: (value: number) => string }) {
  return (
    <>
      <dt>{name}</dt>
      <dd className="text-right">
        <strong>{show(of.value)}</strong> ({show(of.low)} to {show(of.high)})
      </dd>
    </>
  );
}

function Estimates({ view: { assessment }, units }: Props) {
  const { estimates } = assessment;
  if (!estimates.adults) return null;
  return (
    <section aria-labelledby="estimates">
      <SectionHeading id="estimates">Estimates</SectionHeading>
      <dl className="mt-2 grid grid-cols-[1fr_auto] gap-x-4 gap-y-1">
        <Estimate name="Adult bees on the combs" of={estimates.adults} show={bees} />
        {estimates.bees_away && (
          <>
            <dt>In the field, besides</dt>
            <dd className="text-right">
              {bees(estimates.bees_away.low)} to {bees(estimates.bees_away.high)}
            </dd>
          </>
        )}
        {estimates.emerging_12_days && estimates.emerging_12_days.value > 0 && (
          <Estimate name="Bees due in the next 12 days" of={estimates.emerging_12_days} show={bees} />
        )}
        {estimates.adults_in_12_days && (
          <Estimate name="Adults in 12 days" of={estimates.adults_in_12_days} show={bees} />
        )}
        {estimates.stores_kg && <Estimate name="Stores" of={estimates.stores_kg} show={(kg) => weight(kg, units)} />}
      </dl>
      <p className="mt-1 text-sm text-ink-2">
        {BASIS[estimates.bees_by ?? "combs"]}; {estimates.hive.seen} of {estimates.hive.hanging} combs were looked at.
        Method: visits.
      </p>
    </section>
  );
}

function Trends({ view, units }: Props) {
  const { assessment } = view;
  return (
    <section aria-labelledby="trends">
      <h2 id="trends" className="border-b-2 border-ink pb-1 text-xl">
        Compared with last time and the apiary
      </h2>
      <table className="mt-1 w-full">
        <thead>
          <tr className="text-left text-sm text-ink-2">
            <th className="font-normal">
              <span className="sr-only">What</span>
            </th>
            <th className="text-right font-normal">now</th>
            <th className="text-right font-normal">
              {view.compared_with ? shortDay(view.compared_with.visited_on, view.today) : "then"}
            </th>
            <th className="text-right font-normal">apiary, median</th>
          </tr>
        </thead>
        <tbody>
          {assessment.trends.map((one) => {
            const figure = (value: number | null) =>
              value === null ? "–" : one.name === "stores_kg" ? weight(value, units) : oneDecimal(value);
            return (
              <tr key={one.name} className="border-b border-line">
                <th scope="row" className="py-1 text-left font-normal">
                  {TREND[one.name]}
                </th>
                <td className="text-right font-semibold">{figure(one.now)}</td>
                <td className="text-right">{figure(one.then)}</td>
                <td className="text-right">
                  {figure(one.apiary_median)}
                  {one.colonies > 0 && <span className="text-sm text-ink-2"> ({colonies(one.colonies)})</span>}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

function QueensWorth({ view: { assessment } }: { view: View }) {
  const say = useSentence();
  if (assessment.worth.length === 0) return null;
  return (
    <section aria-labelledby="worth">
      <h2 id="worth" className="border-b-2 border-ink pb-1 text-xl">
        The queen: keep, watch or replace
      </h2>
      <table className="mt-1 w-full">
        <tbody>
          {assessment.worth.map((one) => (
            <tr key={one.name} className="border-b border-line">
              <th scope="row" className="py-1 text-left font-normal">
                {CRITERION[one.name]}
              </th>
              <td>{say(one.found)}</td>
              <td
                className={clsx(
                  "text-right font-semibold",
                  one.verdict === "replace" ? "text-act" : one.verdict === "watch" ? "text-watch" : "",
                )}>
                {VERDICT[one.verdict]}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-ink-2">One bad visit is “watch”. Weather and dearth count too.</p>
    </section>
  );
}
