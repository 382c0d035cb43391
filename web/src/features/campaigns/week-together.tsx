/** What a count week says of the association: coverage, how the colonies lie, the map, the apiaries, who is missing. */
import type { Schemas } from "@/client/types";
import { RateBars } from "@/instruments/rate-bars";
import { Empty, Notice } from "@/ui/page";
import { rate } from "@/ui/units";
import { useWidth } from "@/ui/use-width";
import { PHASE } from "@/wording/words";
import { WeekApiaries, WeekMissing } from "./week-apiaries";
import { WeekMap } from "./week-map";
import { WeekShares } from "./week-shares";

type View = Schemas["CountWeekView"];
type Results = Schemas["WeekResults"];

export function WeekTogether({ view, results }: { view: View; results: Results }) {
  const [box, width] = useWidth<HTMLDivElement>(520);
  const { coverage: cover } = results;
  const percent = (part: number, whole: number) => (whole > 0 ? Math.round((100 * part) / whole) : 0);
  const missing = results.keepers.filter((one) => one.counted === 0 && one.colonies > 0);
  return (
    <>
      <dl className="mt-6 grid grid-cols-2 gap-px border border-line bg-line desk:grid-cols-4">
        {(
          [
            ["keepers", cover.keepers_reporting, cover.keepers],
            ["apiaries", cover.apiaries_counted, cover.apiaries],
            ["colonies", cover.colonies_counted, cover.colonies],
            ["sample size known", cover.with_bees, cover.colonies_counted],
          ] as const
        ).map(([name, part, whole]) => (
          <div key={name} className="bg-sheet px-4 py-2">
            <dt className="text-ink-2">{name}</dt>
            <dd>
              <span className="figure text-3xl">{part}</span> of {whole} ({percent(part, whole)} %)
            </dd>
          </div>
        ))}
      </dl>
      {cover.low && (
        <div className="mt-3">
          <Notice>
            Fewer than 40 % of the keepers have counted. Those who did chose themselves: read the shares with care.
          </Notice>
        </div>
      )}
      {results.spans_phases && (
        <div className="mt-3">
          <Notice>
            The week lies in two phases ({results.phases.map((one) => PHASE[one]).join(", ")}): counts before and after
            the change do not compare well.
          </Notice>
        </div>
      )}
      {cover.colonies_counted === 0 ? (
        <div className="mt-8">
          <Empty title="Nothing counted yet">
            Counts of these days, from the bench, from phones or from a table, are added up here.
          </Empty>
        </div>
      ) : (
        <div className="mt-8 grid gap-x-12 gap-y-8 desk:grid-cols-2">
          <section aria-labelledby="lie" className="min-w-0">
            <h2 id="lie" className="border-b-2 border-ink pb-1 text-xl">
              How the colonies lie
            </h2>
            <p className="mt-2">
              Median <span className="figure text-3xl">{results.median === null ? "–" : rate(results.median)}</span>
              {results.quartiles && (
                <span className="text-ink-2">
                  , middle half {rate(results.quartiles[0] ?? 0)} to {rate(results.quartiles[1] ?? 0)}
                </span>
              )}
            </p>
            <div ref={box} className="mt-2">
              <RateBars bars={results.distribution} width={width} />
            </div>
            <WeekShares results={results} />
          </section>
          <WeekMap results={results} today={view.today} />
        </div>
      )}
      {cover.colonies_counted > 0 && <WeekApiaries results={results} />}
      <WeekMissing missing={missing} today={view.today} />
    </>
  );
}
