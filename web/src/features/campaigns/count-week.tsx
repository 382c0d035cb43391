/**
 * A count week: coverage, how the association stands, the coarse map, each apiary's place, and who is still missing.
 */
import { remindKeepers } from "@/client/commands/campaigns";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { countWeekQuery, landQuery } from "@/client/queries";
import { useMay } from "@/features/session/use-session";
import { CellMap } from "@/instruments/cell-map";
import { RateBars } from "@/instruments/rate-bars";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { shortDay } from "@/ui/dates";
import { Button, buttonClass } from "@/ui/button";
import { LevelWord } from "@/ui/level";
import { Empty, ErrorPage, Loading, Notice, Page, Title } from "@/ui/page";
import { rate } from "@/ui/units";
import { useWidth } from "@/ui/use-width";
import { PHASE, METHOD, colonies } from "@/wording/words";
import { BringCounts } from "./import-counts";
import { WeekForm } from "./week-form";

type View = Schemas["CountWeekView"];
type Results = Schemas["WeekResults"];

export function CountWeek() {
  const { id } = useParams({ from: "/in/count-weeks/$id" });
  const query = useQuery(countWeekQuery(id));
  if (query.isPending) return <Loading what="Adding up the week …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return <WeekSheet view={query.data} />;
}

function WeekSheet({ view }: { view: View }) {
  const { week, results } = view;
  const may = useMay("organise");
  const client = useQueryClient();
  const [form, setForm] = useState<"change" | "import" | null>(null);
  const open = week.first_on <= view.today && view.today <= week.last_on;
  const remind = useMutation({
    mutationFn: () => remindKeepers(week.id),
    onSuccess: () => window.setTimeout(() => void client.invalidateQueries({ queryKey: ["count-weeks"] }), 2500),
  });
  const file = (name: string) => `/api/v1/count-weeks/${week.id}/${name}`;
  return (
    <Page>
      <Breadcrumbs path={[{ to: "/count-weeks", name: "Count weeks" }]} />
      <div className="mt-1 flex flex-wrap items-start justify-between gap-x-8 gap-y-3">
        <div className="min-w-0">
          <Title>{week.name}</Title>
          <p className="mt-1 text-ink-2">
            {shortDay(week.first_on)} to {shortDay(week.last_on)} {week.last_on.slice(0, 4)}, by {METHOD[week.method]}.{" "}
            {open ? "It is on now." : view.today > week.last_on ? "It is over." : "It is to come."}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          {may && open && (
            <Link to="/bench" search={{}} className={buttonClass("main")}>
              Count
            </Link>
          )}
          {may && <Button onClick={() => setForm("import")}>Import counts (CSV)</Button>}
          {may && view.today <= week.last_on && (
            <Button disabled={remind.isPending} onClick={() => remind.mutate()}>
              Remind the others
            </Button>
          )}
          {may && (
            <Button variant="quiet" onClick={() => setForm("change")}>
              Change
            </Button>
          )}
        </div>
      </div>
      {remind.data && (
        <p role="status" className="mt-2 font-semibold">
          {remind.data.keepers === 0
            ? "Nobody to write to: all have counted, were reminded today, or have no address here."
            : `Writing to ${remind.data.keepers} ${remind.data.keepers === 1 ? "keeper" : "keepers"}.`}
        </p>
      )}
      {remind.error && (
        <p role="alert" className="mt-2 font-semibold text-act">
          {remind.error.message}
        </p>
      )}
      {week.protocol && <p className="mt-3 max-w-prose text-ink-2">{week.protocol}</p>}
      {results ? <Together view={view} results={results} /> : <Own view={view} />}
      {results && (
        <p className="mt-8 flex flex-wrap gap-x-5 gap-y-1">
          <a className="inline-flex min-h-11 items-center underline underline-offset-4" href={file("report.pdf")}>
            One-page report (PDF)
          </a>
          <a className="inline-flex min-h-11 items-center underline underline-offset-4" href={file("counts.csv")}>
            Counts (CSV)
          </a>
          <a className="inline-flex min-h-11 items-center underline underline-offset-4" href={file("cells.geojson")}>
            Map (GeoJSON)
          </a>
          <span className="inline-flex items-center text-sm text-ink-2">
            No file names a keeper, an apiary or its place.
          </span>
        </p>
      )}
      {form === "change" && (
        <WeekForm
          week={week}
          {...(results ? { keepers: results.keepers.map((one) => one.keeper_id) } : {})}
          onClose={() => setForm(null)}
        />
      )}
      {form === "import" && <BringCounts weekId={week.id} onClose={() => setForm(null)} />}
    </Page>
  );
}

const QUARTER = ["", "lowest quarter", "second quarter", "third quarter", "highest quarter"];

function Own({ view }: { view: View }) {
  if (view.own.length === 0)
    return (
      <div className="mt-8">
        <Empty title="No apiary of yours takes part">You are not invited to this week, or keep no apiary here.</Empty>
      </div>
    );
  return (
    <ul className="mt-6 border-t border-line">
      {view.own.map((one) => (
        <li
          key={one.apiary_id}
          className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 border-b border-line py-3">
          <div>
            <Link
              to="/apiaries/$id"
              params={{ id: one.apiary_id }}
              className="font-head text-xl font-semibold hover:underline">
              {one.name}
            </Link>
            <p className="text-ink-2">
              {one.counted} of {colonies(one.colonies)} counted
            </p>
            {one.near_urgent && (
              <p className="max-w-prose">
                <strong>Raised risk of mites coming in.</strong> A neighbourhood within two cells of the map is urgent:
                look at entrances, stop robbing, and count again in three weeks.
              </p>
            )}
          </div>
          <p>
            <span className="figure text-3xl">{one.rate === null ? "–" : rate(one.rate)}</span> mites per 100 bees
            <span className="block text-sm text-ink-2">
              {one.quarter === null
                ? one.counted < 3
                  ? "a rank needs three colonies"
                  : "too few keepers have counted for a rank"
                : `${QUARTER[one.quarter]} of ${one.of} apiaries`}
            </span>
          </p>
          <Link
            to="/bench"
            search={{ apiary: one.apiary_id }}
            className={buttonClass(one.counted === 0 ? "main" : "plain")}>
            {one.counted === 0 ? "Count it" : "Count more"}
          </Link>
        </li>
      ))}
    </ul>
  );
}

function Together({ view, results }: { view: View; results: Results }) {
  const search = useSearch({ from: "/in/count-weeks/$id" });
  const navigate = useNavigate({ from: "/count-weeks/$id" });
  const land = useQuery(landQuery);
  const [box, width] = useWidth<HTMLDivElement>(520);
  const { coverage: cover } = results;
  const percent = (part: number, whole: number) => (whole > 0 ? Math.round((100 * part) / whole) : 0);
  const cell = results.cells.find((one) => one.id === search.cell) ?? null;
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
            <Shares results={results} />
          </section>
          <section aria-labelledby="map" className="min-w-0">
            <h2 id="map" className="border-b-2 border-ink pb-1 text-xl">
              Coarse map
            </h2>
            <div className="mt-3">
              {results.cells.length > 0 ? (
                <CellMap
                  land={land.data ?? null}
                  cells={results.cells}
                  chosen={cell?.id ?? null}
                  onChoose={(id) =>
                    void navigate({ search: { cell: id === cell?.id ? undefined : id }, replace: true })
                  }
                />
              ) : (
                <p className="text-ink-2">No cell has three apiaries of three keepers: no map is shown.</p>
              )}
            </div>
            {cell && <CellSays cell={cell} today={view.today} />}
            <NearUrgent lines={results.apiaries} />
            {results.elsewhere && (
              <p className="mt-2 text-ink-2">
                Elsewhere, where too few keepers stand together to be shown: {results.elsewhere.over} of{" "}
                {results.elsewhere.counted} over, {colonies(results.elsewhere.colonies)}.
              </p>
            )}
            <p className="mt-2 text-sm text-ink-2">
              Cells of about 11 or 22 km, shown only with three apiaries of three keepers. Marked when a quarter of the
              colonies counted are at the level. Hatched: fewer than five counted.
            </p>
          </section>
        </div>
      )}
      {cover.colonies_counted > 0 && <Apiaries results={results} />}
      <Missing missing={missing} today={view.today} />
    </>
  );
}

/** Who should hear that mites may come in; each keeper hears of their own apiaries only. */
function NearUrgent({ lines }: { lines: Results["apiaries"] }) {
  const near = lines.filter((one) => one.near_urgent);
  if (near.length === 0) return null;
  return (
    <p className="mt-3">
      <strong>Raised risk of mites coming in</strong>, within two cells of an urgent one:{" "}
      {near.length === lines.length
        ? `all ${lines.length} apiaries`
        : near
            .map((one) => one.name)
            .sort()
            .join(", ")}
      . Their keepers see it in this week too.
    </p>
  );
}

function Shares({ results }: { results: Results }) {
  return (
    <>
      <table className="mt-4 w-full text-left">
        <caption className="pb-1 text-left font-semibold">At or over the act level of each school</caption>
        <tbody>
          {results.shares.map((one) => (
            <tr key={one.scheme} className="border-b border-line">
              <th scope="row" className="py-1.5 font-normal">
                {one.name}
              </th>
              <td className="text-right">
                {one.share ? (
                  <>
                    <span className="figure text-xl">{Math.round(100 * one.share.share)} %</span>{" "}
                    <span className="text-ink-2">
                      ({Math.round(100 * one.share.low)} to {Math.round(100 * one.share.high)}), {one.share.over} of{" "}
                      {one.share.counted}
                    </span>
                  </>
                ) : (
                  "–"
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-ink-2">
        Colonies of one apiary are alike: the intervals count them as{" "}
        {results.shares[0]?.share ? Math.round(results.shares[0].share.effective) : "fewer"}.
      </p>
      {results.change && (
        <p className="mt-3">
          Since {results.change_since}: <strong>{results.change.ratio.toFixed(1)} times</strong> the mites (
          {results.change.low.toFixed(1)} to {results.change.high.toFixed(1)}) in {colonies(results.change.colonies)}{" "}
          counted both times and not treated between.
        </p>
      )}
      {results.treatments.length > 0 && (
        <div className="mt-3">
          <p className="font-semibold">Treatments placed since {shortDay(results.treated_since)}</p>
          <ul>
            {results.treatments.map((one) => (
              <li key={one.placed.option_id} className="border-b border-line py-1">
                {one.name}: {colonies(one.placed.colonies)}; <span className="text-ink-2">{verdicts(one.placed)}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {results.methods.length > 1 && (
        <p className="mt-2 text-ink-2">
          {results.methods
            .map(
              (one) =>
                `${METHOD[one.method]}: ${colonies(one.colonies)}, median ${one.median === null ? "–" : rate(one.median)}`,
            )
            .join("; ")}
          .
        </p>
      )}
      {results.recovery && (
        <p className="mt-2 text-ink-2">
          A sugar roll finds about {Math.round(100 * results.recovery.mean)} in 100 mites here ({results.recovery.pairs}{" "}
          colonies washed and rolled).
        </p>
      )}
    </>
  );
}

function verdicts(placed: Schemas["WeekTreatment"]): string {
  const told = [
    [placed.worked, "worked"],
    [placed.partly, "partly"],
    [placed.failed, "failed"],
    [placed.cannot_tell, "cannot tell"],
    [placed.not_proved, "not proved yet"],
  ] as const;
  return told
    .filter(([number]) => number > 0)
    .map(([number, word]) => `${number} ${word}`)
    .join(", ");
}

function CellSays({ cell, today }: { cell: Schemas["CellLine"]; today: string }) {
  return (
    <div className="mt-3 border-l-4 border-course py-1 pl-3">
      {cell.level ? <LevelWord level={cell.level} /> : <strong>no counts</strong>}
      <p>
        {cell.counted} of {colonies(cell.colonies)} counted in {cell.apiaries} apiaries of {cell.keepers} keepers
        {cell.median !== null && `; median ${rate(cell.median)} per 100`}
        {cell.share &&
          `; ${Math.round(100 * cell.share.share)} % over (${Math.round(100 * cell.share.low)} to ${Math.round(100 * cell.share.high)})`}
        {cell.first_on && cell.last_on && `, ${shortDay(cell.first_on, today)} to ${shortDay(cell.last_on, today)}`}.
      </p>
    </div>
  );
}

/** On a small screen what stands aside goes under the apiary's name and its count. */
const ASIDE = "hidden desk:table-cell";
const HEADS = [
  ["apiary", ""],
  ["keeper", ASIDE],
  ["per 100 bees, 95 %", ""],
  ["place", ASIDE],
  ["over", ASIDE],
  ["counted", ""],
  ["treated lately", ASIDE],
] as const;

function place(one: Schemas["ApiaryLine"]): string {
  if (one.quarter !== null) return QUARTER[one.quarter] ?? "";
  return one.counted === 0 ? "" : "too few colonies to rank";
}

function Apiaries({ results }: { results: Results }) {
  return (
    <section className="mt-8" aria-labelledby="apiaries">
      <h2 id="apiaries" className="border-b-2 border-ink pb-1 text-xl">
        Apiaries, the highest first
      </h2>
      <table className="w-full text-left">
        <thead>
          <tr className="border-b border-ink text-sm">
            {HEADS.map(([head, where]) => (
              <th key={head} scope="col" className={`py-1 pr-4 font-semibold ${where}`}>
                {head}
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
                  className="inline-flex min-h-14 min-w-14 items-center font-semibold underline underline-offset-4 desk:min-h-7">
                  {one.name}
                </Link>
                <span className="block text-sm text-ink-2 desk:hidden">{one.keeper}</span>
              </th>
              <td className={`pr-4 ${ASIDE}`}>{one.keeper}</td>
              <td className="pr-4">
                <span className="figure text-lg">{one.rate === null ? "–" : rate(one.rate)}</span>
                {one.low !== null && one.high !== null && (
                  <span className="block whitespace-nowrap text-sm text-ink-2 desk:ml-2 desk:inline">
                    {rate(one.low)} to {rate(one.high)}
                  </span>
                )}
              </td>
              <td className={`pr-4 ${ASIDE}`}>{place(one)}</td>
              <td className={`pr-4 ${ASIDE}`}>{one.counted > 0 ? one.over : ""}</td>
              <td className="pr-4">
                {one.counted} of {one.colonies}
                <span className="block text-sm text-ink-2 desk:hidden">
                  {one.counted > 0 && `${one.over} over; `}
                  {place(one)}
                </span>
              </td>
              <td className={`pr-4 ${ASIDE}`}>{one.treated > 0 ? one.treated : ""}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-ink-2">
        Means of the colonies, drawn towards the association's where few were counted. A place is shown as a quarter,
        and not for fewer than three colonies.
      </p>
    </section>
  );
}

function Missing({ missing, today }: { missing: Schemas["KeeperLine"][]; today: string }) {
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
