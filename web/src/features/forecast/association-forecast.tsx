/** Forecast: every colony's forecast, those that cross their level soonest first, computed in the background. */
import { clsx } from "clsx";
import { requestForecasts } from "@/client/commands/forecasts";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { forecastsQuery } from "@/client/queries";
import { useMay } from "@/features/session/use-session";
import { rateShare } from "@/instruments/scale";
import { addDays, relativeDay, shortDay } from "@/ui/dates";
import { useKeys } from "@/ui/keys";
import { Button } from "@/ui/button";
import { KeyBar } from "@/ui/key-bar";
import { LevelMark } from "@/ui/level";
import { Empty, ErrorPage, Loading, Page } from "@/ui/page";
import { chance, rate } from "@/ui/units";
import { colonies } from "@/wording/words";
import { EvaluationDetails } from "./forecast-evaluation";

type View = Schemas["AssociationForecast"];
type Row = Schemas["ColonyForecastRow"];
const PAGE = 100;

export function AssociationForecast() {
  const { skip = 0 } = useSearch({ from: "/in/forecast" });
  const query = useQuery(forecastsQuery(skip));
  if (query.isPending) return <Loading what="Fetching the forecasts …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return <ForecastSheet view={query.data} skip={skip} />;
}

function ForecastSheet({ view, skip }: { view: View; skip: number }) {
  const client = useQueryClient();
  const navigate = useNavigate({ from: "/forecast" });
  const may = useMay("ask_forecasts");
  const { run, tally } = view;
  const busy = run !== null && (run.state === "waiting" || run.state === "running");
  const asked = useMutation({
    mutationFn: () => requestForecasts({ id: crypto.randomUUID() }),
    onSuccess: () => client.invalidateQueries({ queryKey: ["forecasts"] }),
  });
  const more = skip + PAGE < tally.colonies;
  const page = (to: number) => void navigate({ search: { skip: to > 0 ? to : undefined } });
  useKeys([
    { key: "n", says: "next hundred", run: () => more && page(skip + PAGE) },
    { key: "p", says: "hundred before", run: () => skip > 0 && page(Math.max(0, skip - PAGE)) },
    { key: "f", says: "compute the forecasts", run: () => may && !busy && asked.mutate() },
  ]);
  return (
    <>
      <Page>
        <div className="flex flex-wrap items-end justify-between gap-x-8 gap-y-3">
          <div>
            <h1 className="text-3xl desk:text-4xl">Forecast</h1>
            <p className="mt-1 text-ink-2">
              If nothing more is done than what is under way. Sixty days; beyond them, what arrives from outside
              decides.
            </p>
          </div>
          {may && (
            <Button variant="main" disabled={busy || asked.isPending} onClick={() => asked.mutate()}>
              {busy ? "Calculating …" : "Recalculate"}
            </Button>
          )}
        </div>
        <RunLine run={run} today={view.today} />
        {asked.error && (
          <p role="alert" className="mt-2 font-semibold text-act">
            {asked.error.message}
          </p>
        )}
        {tally.colonies === 0 ? (
          <div className="mt-8">
            <Empty title="Nothing computed yet">
              {run === null
                ? "Every night the forecasts of all colonies are computed; you can also ask for them now."
                : busy
                  ? "The first lines come in a moment."
                  : "No colony was counted lately enough to look ahead: count first."}
            </Empty>
          </div>
        ) : (
          <>
            <dl className="mt-6 grid grid-cols-2 gap-px border border-line bg-line desk:grid-cols-4">
              {(
                [
                  ["at or over now", tally.over_now],
                  ["over within three weeks", tally.within_three_weeks],
                  ["later, within 60 days", tally.later],
                  ["not within 60 days", tally.not_within],
                ] as const
              ).map(([name, number]) => (
                <div key={name} className="bg-sheet px-4 py-2">
                  <dt className="text-ink-2">{name}</dt>
                  <dd className="figure text-4xl">{number}</dd>
                </div>
              ))}
            </dl>
            <EvaluationDetails found={view.evaluation} today={view.today} />
            <h2 className="mt-8 border-b-2 border-ink pb-1 text-xl">
              The soonest first{" "}
              {skip > 0 && <span className="font-sans text-base font-normal text-ink-2">from {skip + 1} on</span>}
            </h2>
            <ul>
              {view.colonies.map((row) => (
                <Line key={row.colony_id} row={row} view={view} />
              ))}
            </ul>
            {(more || skip > 0) && (
              <div className="mt-4 flex gap-3">
                {skip > 0 && <Button onClick={() => page(Math.max(0, skip - PAGE))}>The hundred before</Button>}
                {more && <Button onClick={() => page(skip + PAGE)}>The next hundred</Button>}
              </div>
            )}
          </>
        )}
      </Page>
      <KeyBar
        keys={[
          ["f", "compute"],
          ["n", "next"],
          ["p", "before"],
          ["?", "all keys"],
        ]}>
        band: 80 %. dotted line: act level
      </KeyBar>
    </>
  );
}

function RunLine({ run, today }: { run: View["run"]; today: string }) {
  if (run === null) return null;
  if (run.state === "waiting" || run.state === "running") {
    const share = run.colonies > 0 ? run.done / run.colonies : 0;
    return (
      <div
        className="mt-4"
        role="progressbar"
        aria-label="Forecasts"
        aria-valuemin={0}
        aria-valuemax={run.colonies}
        aria-valuenow={run.done}>
        <p className="text-ink-2">
          {run.state === "waiting"
            ? "Waiting for its turn …"
            : `${run.done} of ${colonies(run.colonies)} computed. You can leave this page.`}
        </p>
        <div className="mt-1 h-2 bg-line">
          <div className="h-2 bg-ink" style={{ width: `${100 * share}%` }} />
        </div>
      </div>
    );
  }
  const by = run.asked_by_name ? `asked for by ${run.asked_by_name}` : "overnight";
  return (
    <p className={clsx("mt-3", run.state === "failed" ? "font-semibold text-act" : "text-ink-2")}>
      {run.state === "failed"
        ? `The last computation failed: ${run.note}. What stands here is older.`
        : `${colonies(run.colonies)} computed for ${shortDay(run.for_day, today)}, ${by}.`}
    </p>
  );
}

/** Beyond 20 per 100 a figure says no more than that the colony is lost unless helped. */
const said = (value = 0) => (value >= 20 ? "over 20" : rate(value));

function whenOver(row: Row, today: string): string {
  if (row.date50 === null)
    return row.date10 === null ? "stays under it" : `may be over by ${shortDay(row.date10, today)}`;
  if (row.date50 <= row.for_day) return "at or over now";
  return `over by ${shortDay(row.date50, today)}, ${relativeDay(row.date50, today)}`;
}

function Line({ row, view }: { row: Row; view: View }) {
  return (
    <li
      className={clsx(
        "grid grid-cols-[1.5rem_minmax(0,1fr)] items-center gap-x-3 gap-y-1 border-b border-line py-2",
        "desk:grid-cols-[1.5rem_13rem_14rem_minmax(0,1fr)_10rem]",
      )}>
      <LevelMark level={row.level} />
      <p className="min-w-0">
        <Link
          to="/colonies/$id/forecast"
          params={{ id: row.colony_id }}
          search={{}}
          className="figure inline-block min-h-8 pt-1 text-xl hover:underline">
          {row.label}
        </Link>
        <span className="block truncate text-sm text-ink-2">
          {row.apiary}, {row.keeper}
        </span>
      </p>
      <div className="col-start-2 desk:col-start-auto">
        <Sparkline row={row} every={view.every_days} />
      </div>
      <p className="col-start-2 desk:col-start-auto">
        <strong>{whenOver(row, view.today)}</strong>
        <span className="block text-sm text-ink-2">
          {said(row.median[0])} now, {said(row.median[Math.round(view.look_ahead_days / view.every_days)])} in three
          weeks; act at {row.act_per_100}. Chance to be over then: {chance(row.p_over_ahead)}.
        </span>
      </p>
      <p className="col-start-2 text-sm desk:col-start-auto desk:text-right">
        {row.danger_from && (
          <strong className="block text-act">at danger level from {shortDay(row.danger_from, view.today)}</strong>
        )}
        {row.in_course && <span className="block text-course">in a course</span>}
        {row.counted_since && <span className="block text-ink-2">counted since</span>}
        {row.disagree && <span className="block text-ink-2">counts disagree</span>}
        <span className="block text-ink-2">counted {shortDay(row.counted_on, view.today)}</span>
      </p>
    </li>
  );
}

/** Sixty days in little: the 80 % band, the middle, the act level. */
function Sparkline({ row, every }: { row: Row; every: number }) {
  const wide = 210;
  const high = 40;
  const top = 20;
  const x = (index: number) => (index / Math.max(1, row.median.length - 1)) * wide;
  const y = (value: number) => high - rateShare(value, top) * (high - 2);
  const path = (values: number[]) => values.map((value, index) => `${x(index)} ${y(value)}`).join("L");
  const last = addDays(row.for_day, (row.median.length - 1) * every);
  return (
    <svg
      width={wide}
      height={high}
      className="block max-w-full"
      role="img"
      aria-label={
        `From ${rate(row.median[0] ?? 0)} to ${rate(row.median.at(-1) ?? 0)} mites per 100 bees by ` +
        `${shortDay(last)}, 80 % between ${rate(row.low80.at(-1) ?? 0)} and ` +
        `${rate(row.high80.at(-1) ?? 0)}`
      }>
      <path
        d={`M${path(row.high80)}L${row.low80
          .map((value, index) => `${x(index)} ${y(value)}`)
          .reverse()
          .join("L")}Z`}
        fill="var(--ink)"
        opacity="0.16"
      />
      <path d={`M0 ${y(row.act_per_100)}H${wide}`} stroke="var(--ink)" strokeWidth="1.2" strokeDasharray="2 3" />
      <path d={`M${path(row.median)}`} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
    </svg>
  );
}
