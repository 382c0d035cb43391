/** What a count week says of the association: coverage, how the colonies lie, the map, the apiaries, who is missing. */
import type { Schemas } from "@/client/types";
import { RatePiles } from "@/instruments/rate-piles";
import { plural } from "@/ui/dates";
import { Empty, Notice } from "@/ui/page";
import { rate } from "@/ui/units";
import { useWidth } from "@/ui/use-width";
import { PHASE, colonies } from "@/wording/words";
import { WeekApiaries, WeekMissing } from "./week-apiaries";
import { WeekMap } from "./week-map";
import { WeekShares } from "./week-shares";

type View = Schemas["CountWeekView"];
type Results = Schemas["WeekResults"];

export function WeekTogether({ view, results }: { view: View; results: Results }) {
  const [box, width] = useWidth<HTMLDivElement>(520);
  const { coverage: cover } = results;
  const missing = results.keepers.filter((one) => one.counted === 0 && one.colonies > 0);
  return (
    <>
      {results.median !== null && (
        <p className="mt-4 flex flex-wrap items-baseline gap-x-3">
          <span className="figure text-6xl">{rate(results.median)}</span>
          <span className="max-w-prose text-lg">
            mites per 100 bees, the median of {colonies(cover.colonies_counted)}
            {results.quartiles &&
              `; half of them between ${rate(results.quartiles[0] ?? 0)} and ${rate(results.quartiles[1] ?? 0)}`}
          </span>
        </p>
      )}
      <p className="mt-2 max-w-prose text-ink-2">
        {`${cover.keepers_reporting} of ${plural(cover.keepers, "keeper")} have counted `}
        {`${cover.colonies_counted} of ${colonies(cover.colonies)} in ${cover.apiaries_counted} of `}
        {`${plural(cover.apiaries, "apiary", "apiaries")}; the size of the sample is known of `}
        {cover.with_bees === cover.colonies_counted ? "all" : `${cover.with_bees} of them`}.
      </p>
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
            <div ref={box} className="mt-2">
              <RatePiles bars={results.distribution} width={width} />
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
