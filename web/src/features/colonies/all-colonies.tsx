/** Every colony of the association: when it is forecast to go over its level, how it stands, when it was counted. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { requestForecasts } from "@/client/commands/forecasts";
import { forecastsQuery } from "@/client/queries";
import type { ListOrder, Schemas } from "@/client/types";
import { EvaluationDetails } from "@/features/forecast/forecast-evaluation";
import { ForecastRunLine } from "@/features/forecast/forecast-run";
import { useMay } from "@/features/session/use-session";
import { OutlookHead, type Ahead } from "@/instruments/outlook-fan";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { KeyBar } from "@/ui/key-bar";
import { useKeys } from "@/ui/keys";
import { Loaded } from "@/ui/loaded";
import { Empty, Page } from "@/ui/page";
import { OrderChoice, SortButton } from "@/ui/sort-button";
import { useWidth } from "@/ui/use-width";
import { colonies } from "@/wording/words";
import { LIST_ORDER_NAME } from "./list-order";
import { LISTED_COLUMNS, ListedColony } from "./listed-colony";

type View = Schemas["AssociationForecast"];
const PAGE = 100;

export function AllColonies() {
  const { skip = 0, sort = "forecast" } = useSearch({ from: "/in/colonies" });
  const query = useQuery(forecastsQuery(skip, sort));
  return (
    <Loaded query={query} what="Fetching the colonies …">
      {(view) => <ColonyList view={view} skip={skip} sort={sort} />}
    </Loaded>
  );
}

function ColonyList({ view, skip, sort }: { view: View; skip: number; sort: ListOrder }) {
  const client = useQueryClient();
  const navigate = useNavigate({ from: "/colonies" });
  const may = useMay("ask_forecasts");
  const { run, tally } = view;
  const busy = run !== null && (run.state === "waiting" || run.state === "running");
  const asked = useMutation({
    mutationFn: () => requestForecasts({ id: crypto.randomUUID() }),
    onSuccess: () => client.invalidateQueries({ queryKey: ["forecasts"] }),
  });
  const more = skip + PAGE < tally.living;
  const page = (to: number) =>
    void navigate({ search: (old) => ({ ...old, skip: to > 0 ? to : undefined }), resetScroll: true });
  const order = (next: ListOrder) => void navigate({ search: { sort: next === "forecast" ? undefined : next } });
  useKeys([
    { key: "n", says: "next hundred", run: () => more && page(skip + PAGE) },
    { key: "p", says: "hundred before", run: () => skip > 0 && page(Math.max(0, skip - PAGE)) },
    { key: "f", says: "compute the forecasts", run: () => may && !busy && asked.mutate() },
  ]);
  return (
    <>
      <Page>
        <Breadcrumbs path={[{ name: "Apiaries", to: "/apiaries" }]} />
        <div className="mt-1 flex flex-wrap items-end justify-between gap-x-8 gap-y-3">
          <div className="max-w-prose">
            <h1 className="text-4xl">Colonies</h1>
            <InShort view={view} />
          </div>
          {may && (
            <Button disabled={busy || asked.isPending} onClick={() => asked.mutate()}>
              {busy ? "Calculating …" : "Recalculate the forecasts"}
            </Button>
          )}
        </div>
        <ForecastRunLine run={run} today={view.today} />
        {asked.error && (
          <p role="alert" className="mt-2 font-semibold text-act">
            {asked.error.message}
          </p>
        )}
        {tally.living === 0 ? (
          <div className="mt-6">
            <Empty title="No colonies yet">Colonies are added at their apiary.</Empty>
          </div>
        ) : (
          <>
            <OrderChoice order={sort} names={LIST_ORDER_NAME} onOrder={order} className="mt-4 desk:hidden" />
            <Rows view={view} sort={sort} onOrder={order} />
          </>
        )}
        {(more || skip > 0) && (
          <div className="mt-4 flex items-center gap-3">
            {skip > 0 && <Button onClick={() => page(Math.max(0, skip - PAGE))}>The hundred before</Button>}
            {more && <Button onClick={() => page(skip + PAGE)}>The next hundred</Button>}
            <p className="text-ink-2">
              {skip + 1} to {skip + view.colonies.length} of {tally.living}
            </p>
          </div>
        )}
        <EvaluationDetails found={view.evaluation} today={view.today} />
      </Page>
      <KeyBar
        keys={[
          ["n", "next hundred"],
          ["p", "before"],
          ["f", "recalculate"],
          ["?", "all keys"],
        ]}>
        band: 8 of 10 cases; dotted: act level
      </KeyBar>
    </>
  );
}

/** How many go over when, in a sentence. */
function InShort({ view: { tally, last, today } }: { view: View }) {
  const none = tally.living - tally.colonies;
  if (tally.colonies === 0)
    return (
      <p className="mt-1 text-ink-2">
        {colonies(tally.living)}. No forecast yet: they are computed every night, from counts that are not too old.
      </p>
    );
  return (
    <p className="mt-1 text-lg">
      <strong className="figure">{tally.over_now}</strong> at or over their act level now,{" "}
      <strong className="figure">{tally.within_three_weeks}</strong> more within three weeks,{" "}
      <strong className="figure">{tally.later}</strong> later; {tally.not_within} not by {shortDay(last, today)}.
      {none > 0 && ` ${colonies(none)} without a count to start from.`}{" "}
      <span className="text-base text-ink-2">If nothing more is done than what is under way.</span>
    </p>
  );
}

function Rows({ view, sort, onOrder }: { view: View; sort: ListOrder; onOrder: (order: ListOrder) => void }) {
  const [box, width] = useWidth<HTMLDivElement>(340);
  const ahead: Ahead = { today: view.today, last: view.last, width };
  const head = (by: ListOrder) => (
    <SortButton name={LIST_ORDER_NAME[by]} inForce={sort === by} onClick={() => onOrder(by)} />
  );
  return (
    <>
      <div className={`mt-4 border-b-2 border-ink items-end pb-1 text-sm font-semibold ${LISTED_COLUMNS}`}>
        <span className="hidden desk:block">{head("forecast")}</span>
        <span className="hidden desk:block">{head("name")}</span>
        <div ref={box} className="col-span-2 desk:col-span-1">
          {view.tally.colonies > 0 && <OutlookHead ahead={ahead} crossings={view.crossings} />}
        </div>
        <span className="hidden desk:block">forecast</span>
        <span className="hidden desk:block">{head("level")}</span>
        <span className="hidden desk:block">{head("counted")}</span>
      </div>
      <ul>
        {view.colonies.map((one) => (
          <ListedColony key={one.colony_id} colony={one} view={view} ahead={ahead} />
        ))}
      </ul>
    </>
  );
}
