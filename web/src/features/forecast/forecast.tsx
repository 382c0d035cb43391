/** The forecast of a colony, and scenarios compared that are moved in time. */
import { clsx } from "clsx";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { colonyQuery, scenariosQuery } from "@/client/queries";
import { useSentence } from "@/features/session/use-sentence";
import { ScenarioPlot, LETTERS, MovingBar } from "@/instruments/scenario-plot";
import type { Span } from "@/instruments/season-strip";
import { addDays, shortDay } from "@/ui/dates";
import { Button } from "@/ui/button";
import { KeyBar } from "@/ui/key-bar";
import { ErrorPage, Loading, Notice, Page } from "@/ui/page";
import { useKeys } from "@/ui/keys";
import { rate } from "@/ui/units";
import { capital } from "@/wording/words";
import { useWidth } from "@/ui/use-width";
import { EvaluationSentence } from "./forecast-evaluation";
import { ARRIVALS, ARRIVALS_DAYS, readScenarios, writeScenarios, type Scenario } from "./scenarios";

type View = Schemas["ForecastView"];
const AHEAD_DAYS = 60;
const BACK_DAYS = 45;
const MOST = 6;

export function ForecastScreen() {
  const { id } = useParams({ from: "/in/colonies/$id/forecast" });
  const { scenarios: wanted } = useSearch({ from: "/in/colonies/$id/forecast" });
  const scenarios = readScenarios(wanted);
  const query = useQuery({ ...scenariosQuery(id, scenarios), placeholderData: keepPreviousData });
  const colony = useQuery(colonyQuery(id));
  if (query.isPending || colony.isPending) return <Loading what="Running the seasons ahead …" />;
  if (query.isError)
    return (
      <>
        <ErrorPage error={query.error} retry={() => void query.refetch()} />
        {scenarios.length > 0 && (
          <Page>
            <Link
              to="/colonies/$id/forecast"
              params={{ id }}
              search={{}}
              className="inline-flex min-h-14 items-center underline underline-offset-4">
              Leave out the scenarios of this address
            </Link>
          </Page>
        )}
      </>
    );
  if (colony.isError) return <ErrorPage error={colony.error} retry={() => void colony.refetch()} />;
  return <Scenarios view={query.data} colony={colony.data} scenarios={scenarios} fresh={!query.isPlaceholderData} />;
}

type Moving = {
  view: View;
  scenarios: Scenario[];
  chosen: number;
  choose: (index: number) => void;
  set: (next: Scenario[]) => void;
};

function Scenarios({
  view,
  colony,
  scenarios,
  fresh,
}: {
  view: View;
  colony: Schemas["ColonyView"];
  scenarios: Scenario[];
  fresh: boolean;
}) {
  const navigate = useNavigate({ from: "/colonies/$id/forecast" });
  const [wanted, choose] = useState(0);
  const chosen = Math.min(wanted, view.views.length - 1);
  const set = (next: Scenario[]) => void navigate({ search: { scenarios: writeScenarios(next) }, replace: true });
  const moving: Moving = { view, scenarios, chosen, choose, set };
  const remove = (index: number) => {
    choose(0);
    set(scenarios.filter((_, at) => at !== index - 1));
  };
  useKeys([
    { key: "j", says: "next scenario", run: () => choose(Math.min(chosen + 1, view.views.length - 1)) },
    { key: "k", says: "scenario before", run: () => choose(Math.max(chosen - 1, 0)) },
  ]);
  return (
    <>
      <Page>
        <Breadcrumbs
          path={[
            { name: colony.apiary.name, to: "/apiaries/$id", params: { id: view.apiary_id } },
            { name: view.label, to: "/colonies/$id", params: { id: view.colony_id } },
          ]}
        />
        <h1 className="mt-1 text-4xl">Forecast: {view.label}</h1>
        {view.why_not ? (
          <div className="mt-6">
            <Notice>No forecast: {view.why_not}.</Notice>
          </div>
        ) : (
          <>
            <InShort view={view} />
            <Picture moving={moving} colony={colony} />
            <AddScenario moving={moving} fresh={fresh} />
            <Table view={view} chosen={chosen} onChoose={choose} onRemove={remove} />
            <HowFarToTrust view={view} />
          </>
        )}
      </Page>
      <KeyBar
        keys={[
          ["j", "next scenario"],
          ["k", "before"],
          ["← →", "move a bar"],
          ["?", "all keys"],
        ]}
      />
    </>
  );
}

function InShort({ view }: { view: View }) {
  const say = useSentence();
  const [alone] = view.views;
  if (!alone) return null;
  const now = alone.days.find((band) => band.date === view.today);
  return (
    <>
      <p className="mt-2 font-head text-2xl font-semibold leading-tight">{capital(say(alone.turns))}</p>
      <p className="mt-1">
        {now && `${rate(now.median)} mites per 100 bees today by the forecast, `}
        {now && `in 8 of 10 cases ${rate(now.low80)} to ${rate(now.high80)}.`}
        {view.danger_from && (
          <strong className="text-act"> At danger level from {shortDay(view.danger_from, view.today)}.</strong>
        )}
      </p>
      {nextCount(view) && <p className="mt-1 text-ink-2">{nextCount(view)}</p>}
      {view.disagree && (
        <div className="mt-3">
          <Notice>
            The counts disagree with one another more than the model can explain. Read the bands with care, and count
            again.
          </Notice>
        </div>
      )}
    </>
  );
}

function Picture({ moving, colony }: { moving: Moving; colony: Schemas["ColonyView"] }) {
  const { view, scenarios, chosen, choose, set } = moving;
  const [box, width] = useWidth<HTMLDivElement>(900);
  const back = addDays(view.today, -BACK_DAYS);
  const shown = view.counts.map((one) => one.taken_on).filter((day) => day >= back);
  const first = shown.sort()[0] ?? back;
  const span: Span = { first: addDays(first, -3), last: addDays(view.today, AHEAD_DAYS), today: view.today, width };
  const daysOf = (one: Scenario) =>
    one.kind === "arrivals" ? ARRIVALS_DAYS : (view.options.find((option) => option.id === one.option_id)?.days ?? 1);
  return (
    <>
      <div ref={box} className="mt-5">
        <ScenarioPlot span={span} height={width < 600 ? 240 : 300} view={view} chosen={chosen} phases={colony.phases} />
        {scenarios.map((one, index) => (
          <MovingBar
            key={index}
            span={span}
            start={one.start}
            days={daysOf(one)}
            most={AHEAD_DAYS}
            letter={LETTERS[index + 1] ?? ""}
            label={view.views[index + 1]?.name ?? "this scenario"}
            onMove={(start) => {
              choose(index + 1);
              set(scenarios.map((each, at) => (at === index ? { ...each, start } : each)));
            }}
          />
        ))}
      </div>
      <p className="mt-1 text-sm text-ink-2">
        {`Grey: half, 80 % and 95 % of the ${view.members.toLocaleString("en-GB")} model colonies that fit the `}
        {`counts, for ${LETTERS[chosen]}. Broken lines: the middle of each scenario.`}
      </p>
    </>
  );
}

function AddScenario({ moving, fresh }: { moving: Moving; fresh: boolean }) {
  const { view, scenarios, choose, set } = moving;
  const add = (what: string) => {
    const next: Scenario =
      what === ARRIVALS
        ? { kind: "arrivals", option_id: null, start: view.today }
        : { kind: "course", option_id: what, start: addDays(view.today, 3) };
    choose(scenarios.length + 1);
    set([...scenarios, next]);
  };
  return (
    <div className="mt-4 flex flex-wrap items-end gap-3">
      <label className="min-w-0 flex-1 desk:max-w-md">
        <span className="mb-1 block font-semibold">Add a scenario</span>
        <select
          className="input"
          value=""
          disabled={scenarios.length >= MOST}
          onChange={(event) => {
            if (event.target.value) add(event.target.value);
          }}>
          <option value="">choose what is done, or happens</option>
          {view.options.map((option) => (
            <option key={option.id} value={option.id}>
              {option.name}
            </option>
          ))}
          <option value={ARRIVALS}>mites arriving from outside</option>
        </select>
      </label>
      <p role="status" className="text-sm text-ink-2">
        {fresh ? "" : "Running …"}
      </p>
    </div>
  );
}

function HowFarToTrust({ view }: { view: View }) {
  return (
    <section className="mt-8 max-w-3xl text-ink-2" aria-labelledby="sure">
      <h2 id="sure" className="text-xl text-ink">
        How far to trust it
      </h2>
      <p className="mt-2">
        It starts from {view.counts.length === 1 ? "one count" : `the last ${view.counts.length} counts`}
        {view.courses.length > 0 ? " and the courses on record" : ""}.{" "}
        {view.counts.some((one) => one.converted) &&
          "What fell on boards is drawn broken: it says far less of the load than a jar. "}
        It knows nothing of the weather, of a failing queen, or of what robbing may bring in from next door: the bands
        widen with every week for good reason. <EvaluationSentence found={view.evaluation} />
        Count again; a count is worth more than any forecast.
      </p>
      <p className="mt-2">Labels, local law and a vet’s advice go before anything here.</p>
    </section>
  );
}

/** What a wash would find if the forecast holds: something that a count can prove wrong. */
function nextCount(view: View): string {
  const [now, later] = view.next_counts;
  if (!now || !later) return "";
  const mites = (one: Schemas["NextCount"]) => `${one.low80} to ${one.high80} mites`;
  return (
    `If it holds, a wash of about ${Math.round(now.bees)} bees finds ${mites(now)} today and ` +
    `${mites(later)} on ${shortDay(later.on, view.today)}, eight times in ten.`
  );
}

function Table({
  view,
  chosen,
  onChoose,
  onRemove,
}: {
  view: View;
  chosen: number;
  onChoose: (index: number) => void;
  onRemove: (index: number) => void;
}) {
  return (
    <ul className="mt-5 border-t-2 border-ink" aria-label="Scenarios">
      {view.views.map((scenario, index) => (
        <li
          key={index}
          className={clsx(
            "grid gap-x-6 gap-y-1 border-b border-line px-2 py-3",
            "desk:grid-cols-[minmax(0,1.3fr)_minmax(0,1.1fr)_minmax(0,1.7fr)_7rem] desk:items-center",
            index === chosen && "bg-sheet shadow-[inset_4px_0_0_var(--ink)]",
          )}>
          <button
            type="button"
            className="flex min-h-14 items-center gap-3 text-left desk:min-h-10"
            aria-pressed={index === chosen}
            onClick={() => onChoose(index)}>
            <span
              className={clsx(
                "figure flex h-8 w-8 shrink-0 items-center justify-center border border-ink font-bold",
                index === chosen && "bg-ink text-sheet",
              )}>
              {LETTERS[index]}
            </span>
            <span>
              <span className="block font-semibold">{index === 0 ? "Nothing more is done" : scenario.name}</span>
              {scenario.scenario && (
                <span className="block text-sm text-ink-2">from {shortDay(scenario.scenario.start, view.today)}</span>
              )}
            </span>
          </button>
          <p>
            {scenario.outcome.at.map((day) => (
              <span key={day.on} className="block">
                <span className="inline-block w-16 text-ink-2">{shortDay(day.on, view.today)}</span>{" "}
                <strong className="figure text-lg">{rate(day.median)}</strong>{" "}
                <span className="text-sm text-ink-2">
                  {rate(day.low80)} to {rate(day.high80)}
                </span>
              </span>
            ))}
          </p>
          <p className="text-sm">
            {scenario.outcome.p_below !== null && (
              <span className="block">
                <strong>{Math.round(scenario.outcome.p_below * 100)} %</strong> stay at {view.winter_level} or under
                between these days
              </span>
            )}
            <span className="block text-ink-2">
              lowest {shortDay(scenario.outcome.lowest_on, view.today)}, highest {rate(scenario.outcome.peak_per_100)}
              {index > 0 &&
                Math.abs(scenario.outcome.killed) >= 1 &&
                `; ${Math.round(Math.abs(scenario.outcome.killed)).toLocaleString("en-GB")} mites ` +
                  `${scenario.outcome.killed > 0 ? "fewer" : "more"} in the end`}
            </span>
            {scenario.window && <span className="block text-ink-2">{windowText(scenario.window, view)}</span>}
          </p>
          {index > 0 ? (
            <Button variant="quiet" aria-label={`Remove ${scenario.name}`} onClick={() => onRemove(index)}>
              Remove
            </Button>
          ) : (
            <span />
          )}
        </li>
      ))}
    </ul>
  );
}

function windowText(window: Schemas["StartWindow"], view: View): string {
  if (window.latest)
    return (
      `start it by ${shortDay(window.latest, view.today)} at the latest: ` +
      `${Math.round(window.p_latest * 100)} % chance before winter bees`
    );
  if (window.p_latest === 0) return "it can no longer end before the first winter bees";
  return `not enough by itself: ${Math.round(window.p_latest * 100)} % chance at best before winter bees`;
}
