/** Each apiary of a count week, and the keepers who are still missing. */
import { clsx } from "clsx";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { Term } from "@/features/help/term";
import { RateInterval, RateIntervalHead } from "@/instruments/rate-interval";
import { shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import { QUARTER, colonies } from "@/wording/words";

type Results = Schemas["WeekResults"];

/** On a small screen what stands aside goes under the apiary's name and its count. */
const ASIDE = "hidden desk:table-cell";
const ON_THE_RULE = "on the rate rule";
const HEADS = [
  ["apiary", ""],
  ["keeper", ASIDE],
  ["per 100 bees, 95 %", ""],
  [ON_THE_RULE, clsx(ASIDE, "w-72")],
  ["place", ASIDE],
  ["over", ASIDE],
  ["counted", ""],
  ["treated lately", ASIDE],
] as const;

function place(one: Schemas["ApiaryLine"]): string {
  if (one.quarter !== null) return QUARTER[one.quarter] ?? "";
  return one.counted === 0 ? "" : "too few colonies to rank";
}

export function WeekApiaries({ results }: { results: Results }) {
  return (
    <section className="mt-8" aria-labelledby="apiaries">
      <h2 id="apiaries" className="border-b-2 border-ink pb-1 text-xl">
        Apiaries, the highest first
      </h2>
      <table className="w-full text-left">
        <thead>
          <tr className="border-b border-ink text-sm">
            {HEADS.map(([head, where]) => (
              <th key={head} scope="col" className={clsx("py-1 pr-4 align-bottom font-semibold", where)}>
                {head === ON_THE_RULE ? (
                  <>
                    <span className="sr-only">{head}</span>
                    <RateIntervalHead />
                  </>
                ) : (
                  head
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {results.apiaries.map((one) => (
            <tr key={one.apiary_id} className="border-b border-line align-baseline">
              <th scope="row" className="py-1.5 pr-4 font-normal">
                <Link
                  to="/apiaries/$id"
                  params={{ id: one.apiary_id }}
                  className={clsx(
                    "inline-flex min-h-14 min-w-14 items-center font-semibold underline underline-offset-4",
                    "desk:min-h-7",
                  )}>
                  {one.name}
                </Link>
                <span className="block text-sm text-ink-2 desk:hidden">{one.keeper}</span>
              </th>
              <td className={clsx("pr-4", ASIDE)}>{one.keeper}</td>
              <td className="pr-4">
                <span className="figure text-lg">{one.rate === null ? "–" : rate(one.rate)}</span>
                {one.low !== null && one.high !== null && (
                  <span className="block whitespace-nowrap text-sm text-ink-2 desk:ml-2 desk:inline">
                    {rate(one.low)} to {rate(one.high)}
                  </span>
                )}
              </td>
              <td className={clsx("pr-4 align-middle", ASIDE)}>
                {one.rate !== null && one.low !== null && one.high !== null && (
                  <RateInterval median={one.rate} low={one.low} high={one.high} />
                )}
              </td>
              <td className={clsx("pr-4", ASIDE)}>{place(one)}</td>
              <td className={clsx("pr-4", ASIDE)}>{one.counted > 0 ? one.over : ""}</td>
              <td className="pr-4">
                {one.counted} of {one.colonies}
                <span className="block text-sm text-ink-2 desk:hidden">
                  {one.counted > 0 && `${one.over} over; `}
                  {place(one)}
                </span>
              </td>
              <td className={clsx("pr-4", ASIDE)}>{one.treated > 0 ? one.treated : ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-ink-2">
        Means of the colonies, drawn towards the association's where few were counted. A place is shown as a{" "}
        <Term id="quarter">quarter</Term>, and not for fewer than three colonies.
      </p>
    </section>
  );
}

export function WeekMissing({ missing, today }: { missing: Schemas["KeeperLine"][]; today: string }) {
  if (missing.length === 0) return null;
  return (
    <section className="mt-8" aria-labelledby="missing">
      <h2 id="missing" className="border-b-2 border-ink pb-1 text-xl">
        Not counted yet
      </h2>
      <ul>
        {missing.map((one) => (
          <li key={one.keeper_id} className="flex flex-wrap justify-between gap-x-6 border-b border-line py-1.5">
            <span>
              <strong>{one.name}</strong>, {colonies(one.colonies)} in {one.apiaries}{" "}
              {one.apiaries === 1 ? "apiary" : "apiaries"}
            </span>
            <span className="text-ink-2">
              {one.reminded_at
                ? `reminded ${shortDay(one.reminded_at.slice(0, 10), today)}`
                : one.has_address
                  ? "not reminded"
                  : "no address here"}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
