/** Apiaries by name, keeper and state, on the drawn map and as a list. Filters live in the address. */
import { clsx } from "clsx";
import { TextLink } from "@/ui/link";
import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useDeferredValue, useState } from "react";
import type { ApiaryOrder, Level, Schemas } from "@/client/types";
import { apiariesQuery, keepersQuery, landQuery, placesQuery } from "@/client/queries";
import { IslandMap } from "@/instruments/island-map";
import { daysBetween, plural, relativeDay, shortDay } from "@/ui/dates";
import { useKeys } from "@/ui/keys";
import { useMay } from "@/features/session/use-session";
import { ApiaryForm } from "./apiary-form";
import { APIARY_ORDER_NAME, LEVELS } from "./apiary-order";
import { Button } from "@/ui/button";
import { ImportApiaries } from "./import-apiaries";
import { KeyBar } from "@/ui/key-bar";
import { LevelMark, LevelWord } from "@/ui/level";
import { Loaded } from "@/ui/loaded";
import { useLongList, useLookFor, useMore } from "@/ui/long-list";
import { LongRows } from "@/ui/long-rows";
import { Empty, Page } from "@/ui/page";
import { OrderChoice, SortButton } from "@/ui/sort-button";
import { rate } from "@/ui/units";
import { LEVEL, colonies } from "@/wording/words";

type Apiary = Schemas["ApiaryRow"];
type Place = Schemas["ApiaryPlace"];
const ROW_PX = 64;

/** How old the last counted of an apiary is: from its least recent latest count, or that some were never counted. */
function age(apiary: Apiary | Place, today: string): string {
  if (apiary.colonies === 0) return "no colonies";
  if (apiary.oldest_count_on === null) return "never counted";
  const newest = daysBetween(apiary.newest_count_on ?? apiary.oldest_count_on, today);
  const oldest = daysBetween(apiary.oldest_count_on, today);
  return newest === oldest ? `${newest} days ago` : `${newest} to ${oldest} days ago`;
}

/** How many colonies of an apiary are over by the forecast, and when the next goes over. */
function forecastWords(apiary: Apiary, today: string): string {
  const next = apiary.over_next_by && `next by ${shortDay(apiary.over_next_by, today)}`;
  if (apiary.forecast_over > 0) return [`${apiary.forecast_over} over now`, next].filter(Boolean).join(", ");
  return next ? `over ${next}` : "none over in 60 days";
}

/** What the address asks for. */
function useAsked() {
  const search = useSearch({ from: "/in/apiaries" });
  const find = useDeferredValue((search.find ?? "").trim());
  return { search, order: search.sort ?? ("by" as const), fit: { find, level: search.level } };
}

export function Apiaries() {
  const { order, fit } = useAsked();
  const query = useInfiniteQuery({ ...apiariesQuery(order, fit), placeholderData: keepPreviousData });
  const more = useMore(query);
  return (
    <Loaded query={query} what="Fetching the apiaries …">
      {(view) => <ApiaryList view={view} more={more} />}
    </Loaded>
  );
}

type View = Schemas["PlacesView"];

const KEYS: [string, string][] = [
  ["j", "next"],
  ["k", "before"],
  ["Return", "open"],
  ["?", "all keys"],
];

/** The apiaries that the address asks for, in its order, and the one that is chosen. */
function useShown(view: View, more: (() => void) | undefined) {
  const { search, order } = useAsked();
  const navigate = useNavigate({ from: "/apiaries" });
  const shown = view.apiaries;
  const index = shown.findIndex((one) => one.id === search.at);
  useLookFor(search.at !== undefined && index < 0, shown.length, more);
  const rows = useLongList<HTMLTableElement>({ count: shown.length, estimate: ROW_PX, current: index, more });
  const set = (next: Partial<typeof search>) =>
    void navigate({ search: (old) => ({ ...old, ...next }), replace: true, resetScroll: false });
  const step = (by: number) => {
    const next = shown[Math.min(Math.max(index + by, 0), shown.length - 1)];
    if (next) set({ at: next.id });
  };
  const open = () => search.at !== undefined && void navigate({ to: "/apiaries/$id", params: { id: search.at } });
  useKeys([
    { key: "j", says: "next apiary", run: () => step(1) },
    { key: "k", says: "apiary before", run: () => step(-1) },
    { key: "Enter", shown: "Return", says: "open the apiary", run: open },
  ]);
  return { search, order, shown, rows, set };
}

function ApiaryList({ view, more }: { view: View; more: (() => void) | undefined }) {
  const mayKeep = useMay("keep_places");
  const mayImport = useMay("keep_keepers");
  const [adding, setAdding] = useState(false);
  const [importing, setImporting] = useState(false);
  const list = useShown(view, more);
  return (
    <>
      <Page>
        <div className="flex flex-wrap items-end justify-between gap-4">
          <div>
            <h1 className="text-4xl">Apiaries</h1>
            <p className="mt-1 text-ink-2">
              {plural(view.total_apiaries, "apiary", "apiaries")}, {colonies(view.total_colonies)},{" "}
              {plural(view.total_keepers, "keeper")}. <TextLink to="/colonies">All colonies</TextLink>{" "}
              <TextLink to="/deadouts" className="ml-4">
                Dead colonies
              </TextLink>
              {mayImport && (
                <button
                  type="button"
                  className="ml-4 min-h-8 underline underline-offset-4"
                  onClick={() => setImporting(true)}>
                  Import apiaries
                </button>
              )}
            </p>
          </div>
          <Filters list={list} onAdd={mayKeep ? () => setAdding(true) : null} />
        </div>
        {view.total_apiaries === 0 ? (
          <NoApiaries onAdd={mayKeep ? () => setAdding(true) : null} />
        ) : (
          <div
            className={clsx(
              "mt-5 grid grid-cols-[minmax(0,1fr)] items-start gap-6",
              "desk:grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)]",
            )}>
            <Table list={list} today={view.today} />
            <OnMap list={list} />
          </div>
        )}
        {importing && <ImportApiaries onClose={() => setImporting(false)} />}
        {adding && <AddApiary onClose={() => setAdding(false)} />}
      </Page>
      <KeyBar keys={KEYS} />
    </>
  );
}

type List = ReturnType<typeof useShown>;

function AddApiary({ onClose }: { onClose: () => void }) {
  const keepers = useQuery(keepersQuery);
  return keepers.data && <ApiaryForm open onClose={onClose} keepers={keepers.data} />;
}

function Table({ list, today }: { list: List; today: string }) {
  const { shown, rows, search } = list;
  return (
    <div className="min-w-0 overflow-x-auto">
      <table ref={rows.container} className="w-full border-collapse">
        <caption className="sr-only">Apiaries</caption>
        <thead>
          <tr className="border-b-2 border-ink text-left text-sm">
            <Sorted list={list} by="by" />
            <Sorted list={list} by="name" />
            <Sorted list={list} by="level" />
            <Sorted list={list} by="highest" className="hidden desk:table-cell" />
            <Sorted list={list} by="forecast" className="hidden desk:table-cell" />
            <Sorted list={list} by="counted" className="hidden desk:table-cell" />
          </tr>
        </thead>
        <LongRows rows={rows}>
          {(index) => {
            const one = shown[index];
            return (
              one && (
                <Row
                  key={one.id}
                  index={index}
                  measure={rows.measure}
                  apiary={one}
                  today={today}
                  chosen={one.id === search.at}
                />
              )
            );
          }}
        </LongRows>
      </table>
      {shown.length === 0 && <p className="py-6 text-ink-2">No apiary fits. Clear the search or show every level.</p>}
    </div>
  );
}

/** All that fit on the drawn map, however many the list has drawn. */
function OnMap({ list: { search, set } }: { list: List }) {
  const { fit } = useAsked();
  const land = useQuery(landQuery);
  const places = useQuery({ ...placesQuery(fit), placeholderData: keepPreviousData });
  const chosen = places.data?.places.find((one) => one.id === search.at) ?? null;
  const today = places.data?.today ?? "";
  return (
    <div className="min-w-0 desk:sticky desk:top-16">
      <IslandMap
        land={land.data ?? null}
        apiaries={places.data?.places ?? []}
        today={today}
        chosen={chosen?.id ?? null}
        onChoose={(id) => set({ at: id })}
      />
      <Chosen chosen={chosen} today={today} />
    </div>
  );
}

type FiltersProps = { list: List; onAdd: (() => void) | null };

function Filters({ list: { search, order, set }, onAdd }: FiltersProps) {
  return (
    <div className="flex w-full flex-wrap gap-3 desk:w-auto">
      <label className="min-w-40 flex-1">
        <span className="sr-only">Show apiaries or keepers called</span>
        <input
          type="search"
          className="input"
          placeholder="Apiary or keeper"
          value={search.find ?? ""}
          onChange={(event) => set({ find: event.target.value || undefined })}
        />
      </label>
      <label>
        <span className="sr-only">Show one level</span>
        <select
          className="input"
          value={search.level ?? ""}
          onChange={(event) => set({ level: (event.target.value || undefined) as Level | undefined })}>
          <option value="">every level</option>
          {LEVELS.map((level) => (
            <option key={level} value={level}>
              {LEVEL[level]}
            </option>
          ))}
        </select>
      </label>
      <OrderChoice
        order={order}
        names={APIARY_ORDER_NAME}
        onOrder={(next) => set({ sort: next === "by" ? undefined : next })}
        className="desk:hidden"
      />
      {onAdd && <Button onClick={onAdd}>Add an apiary</Button>}
    </div>
  );
}

function NoApiaries({ onAdd }: { onAdd: (() => void) | null }) {
  return (
    <div className="mt-6">
      <Empty title="No apiaries yet">
        <p>An apiary is a place with a keeper; its colonies follow.</p>
        {onAdd && (
          <Button variant="main" className="mt-4" onClick={onAdd}>
            Add the first apiary
          </Button>
        )}
      </Empty>
    </div>
  );
}

function Chosen({ chosen, today }: { chosen: Place | null; today: string }) {
  return (
    <div className="mt-2 min-h-12 text-sm text-ink-2">
      {chosen ? (
        <p>
          <Link
            to="/apiaries/$id"
            params={{ id: chosen.id }}
            className="font-semibold text-ink underline underline-offset-4">
            Open {chosen.name}
          </Link>
          : {chosen.keeper}, {colonies(chosen.colonies)}, {age(chosen, today)}, {chosen.elevation_m} m above the sea.
        </p>
      ) : (
        <p>
          The mark is the level that needs attention first; under a name stand the highest figure per 100 bees and the
          age of the oldest count. Hatched: too old to say.
        </p>
      )}
    </div>
  );
}

type SortedProps = { list: List; by: ApiaryOrder; className?: string };

/** The head of a column that orders the list; the one in force is marked. */
function Sorted({ list: { order, set }, by, className }: SortedProps) {
  const inForce = order === by;
  return (
    <th
      scope="col"
      aria-sort={inForce ? "ascending" : undefined}
      className={clsx("pr-3 font-semibold first:pl-2", className)}>
      <SortButton
        name={APIARY_ORDER_NAME[by]}
        inForce={inForce}
        onClick={() => set({ sort: by === "by" ? undefined : by })}
      />
    </th>
  );
}

type RowProps = {
  index: number;
  measure: (row: Element | null) => void;
  apiary: Apiary;
  today: string;
  chosen: boolean;
};

function Row({ index, measure, apiary: one, today, chosen }: RowProps) {
  const due = one.work;
  return (
    <tr
      ref={measure}
      data-index={index}
      className={clsx("border-b border-line align-top", chosen && "bg-sheet shadow-[inset_3px_0_0_var(--ink)]")}>
      <td className="whitespace-nowrap py-2.5 pl-2 pr-3 desk:py-1.5">
        {due ? (
          <>
            <span className={clsx("block font-head text-lg font-semibold leading-8", due.late > 0 && "text-act")}>
              {shortDay(due.by, today)}
            </span>
            <span className={clsx("text-sm", due.late > 0 ? "font-semibold text-act" : "text-ink-2")}>
              {due.late > 0 ? `${plural(due.late, "day")} late` : relativeDay(due.by, today)}
            </span>
          </>
        ) : (
          <span className="text-sm leading-8 text-ink-2">nothing due</span>
        )}
      </td>
      <td className="py-2.5 pr-3 wrap-anywhere desk:py-1.5">
        <Link
          to="/apiaries/$id"
          params={{ id: one.id }}
          className="inline-block min-h-7 py-0.5 font-head text-lg font-semibold leading-tight hover:underline">
          {one.name}
        </Link>
        <span className="block text-sm text-ink-2">
          {one.keeper}, {colonies(one.colonies)}
          <span className="desk:hidden">
            , {age(one, today)}
            {one.forecast_of > 0 && `; ${forecastWords(one, today)}`}
          </span>
        </span>
      </td>
      <td className="py-2.5 pr-3 desk:py-1.5">
        {one.worst ? <LevelWord level={one.worst} /> : <span className="text-ink-2">empty</span>}
        <Counts apiary={one} />
      </td>
      <td className="hidden py-2.5 pr-3 text-right desk:table-cell desk:py-1.5">
        {one.highest === null ? "–" : rate(one.highest)}
        <span className="block text-xs text-ink-2">per 100</span>
      </td>
      <td className="hidden py-2.5 pr-3 text-sm desk:table-cell desk:py-1.5">
        {one.forecast_of > 0 ? forecastWords(one, today) : <span className="text-ink-2">none</span>}
      </td>
      <td className="hidden py-2.5 text-sm desk:table-cell desk:py-1.5">
        {age(one, today)}
        {one.in_course > 0 && <span className="block text-course">{one.in_course} in a course</span>}
      </td>
    </tr>
  );
}

/** How many colonies stand where, as marks with figures. */
function Counts({ apiary }: { apiary: Apiary }) {
  return (
    <span className="mt-0.5 flex flex-wrap gap-x-2 text-sm text-ink-2">
      {LEVELS.filter((level) => apiary[level] > 0).map((level) => (
        <span key={level} className="inline-flex items-center gap-1">
          <LevelMark level={level} size={12} />
          {apiary[level]}
          <span className="sr-only">{LEVEL[level]}</span>
        </span>
      ))}
    </span>
  );
}
