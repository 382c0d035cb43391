/** An apiary: a block of season strips. Colonies are picked here for a count or a course together. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import type { Schemas } from "@/client/types";
import { apiaryQuery } from "@/client/queries";
import { SeasonStrip, StripHead, type Span } from "@/instruments/season-strip";
import { useMay } from "@/features/session/use-session";
import { daysBetween, relativeDay, shortDay } from "@/ui/dates";
import { useKeys } from "@/ui/keys";
import { StartRound } from "@/features/visits/round";
import { Button } from "@/ui/button";
import { KeyBar } from "@/ui/key-bar";
import { LevelMark, LevelWord, QueenMark } from "@/ui/level";
import { Empty, ErrorPage, Loading, Page, Title } from "@/ui/page";
import { rate } from "@/ui/units";
import { useWidth } from "@/ui/use-width";
import { COURSE_SHORT } from "@/wording/options";
import { LEVEL_REASON, SCHEME, colonies, levelWord } from "@/wording/words";
import { ApiaryFigures } from "./figures";
import { OwnPolicy } from "./own-policy";
import { WhatToCount } from "./sampling-plan";
import { AddColony } from "@/features/colonies/add-colony";
import { ApiaryForm } from "@/features/places/apiary-form";

type View = Schemas["ApiaryView"];
type Colony = Schemas["ColonyOverview"];

export function Apiary() {
  const { id } = useParams({ from: "/in/apiaries/$id" });
  const query = useQuery(apiaryQuery(id));
  if (query.isPending) return <Loading what="Drawing the season …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return <ApiarySheet view={query.data} />;
}

/** The one sentence on top: what is to be done here, and why; the core decides, this words it. */
function headline(view: View): { title: string; text: string; tone: "act" | "plain" } {
  const { advice } = view;
  const named = advice.colonies.map((id) => view.colonies.find((one) => one.id === id)?.label ?? "");
  const names = named.slice(0, 6).join(", ") + (named.length > 6 ? " …" : "");
  const share = view.status.counted > 0 ? Math.round((100 * advice.over) / view.status.counted) : 0;
  const inCourse = advice.in_course > 0 ? ` ${colonies(advice.in_course)} in a course already.` : "";
  const all = view.status.scope === "whole_apiary" && view.status.treat.length > advice.over;
  const whole = all ? " The policy treats the whole apiary." : "";
  const over = `${colonies(advice.over)} at or over the threshold: ${share} % of what was counted.${whole}${inCourse}`;
  switch (advice.act) {
    case "treat_all":
      return { title: "Treat this apiary.", text: over, tone: "act" };
    case "treat":
      return { title: `Treat ${names}.`, text: over, tone: "act" };
    case "flag":
      return { title: `Flag ${names} to the programme lead.`, text: over, tone: "act" };
    case "report":
      return {
        title: `Report ${names}.`,
        text: `A mite was found in ${names}. Your authority says what follows.`,
        tone: "act",
      };
    case "count_all":
    case "count":
      return {
        title: `Count ${advice.act === "count_all" ? "this apiary" : names}.`,
        text: "The current level is not known any more. An old count is not a clear one.",
        tone: "plain",
      };
    case "wait_for_course":
      return {
        title: "A course is in hand.",
        text: `${colonies(advice.in_course)} under treatment or awaiting a check count.`,
        tone: "plain",
      };
    case "count_by":
      return {
        title: "Nothing to do now.",
        text: advice.count_by ? `Count again by ${shortDay(advice.count_by, view.today)}.` : "",
        tone: "plain",
      };
    case "none":
      return { title: "Nothing to do now.", text: "", tone: "plain" };
  }
}

function ApiarySheet({ view }: { view: View }) {
  const navigate = useNavigate({ from: "/apiaries/$id" });
  const search = useSearch({ from: "/in/apiaries/$id" });
  const mayRecord = useMay("record");
  const mayKeep = useMay("keep_places");
  const [adding, setAdding] = useState(false);
  const [changing, setChanging] = useState(false);
  const [planning, setPlanning] = useState(false);
  const [differing, setDiffering] = useState(false);
  const mayDiffer = useMay("set_apiary_policy");
  const living = view.colonies.filter((one) => one.is_living);
  const others = view.colonies.filter((one) => !living.includes(one));
  const picked = useMemo(() => new Set(search.pick ?? []), [search.pick]);
  const current = living.findIndex((one) => one.id === search.at);
  const table = search.view === "table";
  const [box, width] = useWidth<HTMLDivElement>(700);
  const span: Span = { first: view.first, last: view.last, today: view.today, width };
  const heading = headline(view);

  const set = (next: Partial<typeof search>) =>
    void navigate({ search: (old) => ({ ...old, ...next }), replace: true });
  const pick = (ids: string[]) => set({ pick: ids.length > 0 ? ids : undefined });
  const toggle = (id: string) => pick(picked.has(id) ? [...picked].filter((one) => one !== id) : [...picked, id]);
  const wanted = picked.size > 0 ? living.filter((one) => picked.has(one.id)) : living;
  const ids = wanted.map((one) => one.id);
  const go = (by: number) => {
    const next = living[Math.min(Math.max(current + by, 0), living.length - 1)];
    if (next) {
      set({ at: next.id });
      document.getElementById(`colony-${next.id}`)?.scrollIntoView({ block: "nearest" });
    }
  };
  const count = () => void navigate({ to: "/bench", search: { apiary: view.apiary.id, colonies: ids } });
  const treat = () => void navigate({ to: "/treat", search: { apiary: view.apiary.id, colonies: ids } });
  useKeys([
    { key: "j", says: "next colony", run: () => go(1) },
    { key: "k", says: "colony before", run: () => go(-1) },
    { key: "x", says: "pick the colony", run: () => living[current] && toggle(living[current].id) },
    { key: "c", says: "count", run: count },
    { key: "o", says: "choose a treatment", run: treat },
    { key: "t", says: "table or strips", run: () => set({ view: table ? undefined : "table" }) },
    {
      key: "Enter",
      shown: "Return",
      says: "open the colony",
      run: () => living[current] && void navigate({ to: "/colonies/$id", params: { id: living[current].id } }),
    },
  ]);
  return (
    <>
      <Page>
        <nav aria-label="Path" className="text-sm text-ink-2">
          <Link to="/apiaries" className="inline-block py-1 underline underline-offset-4">
            Places
          </Link>
        </nav>
        <div className="mt-1 grid gap-x-10 gap-y-4 desk:grid-cols-[minmax(0,19rem)_minmax(0,1fr)_auto]">
          <div>
            <Title>{view.apiary.name}</Title>
            <p className="mt-1 text-ink-2">
              {view.apiary.keeper}, {colonies(living.length)}, {view.apiary.elevation_m} m. Judged {SCHEME[view.scheme]}
              {view.has_own_policy ? ", with a policy of its own" : ""}.
            </p>
          </div>
          <div className="max-w-prose">
            <p className={`font-head text-2xl font-semibold leading-tight ${heading.tone === "act" ? "text-act" : ""}`}>
              {heading.title}
            </p>
            <p className="mt-1 text-ink-2">{heading.text}</p>
          </div>
          {mayRecord && living.length > 0 && (
            <div className="flex flex-wrap content-start items-start gap-2">
              <Button
                variant={heading.tone === "act" ? "main" : "plain"}
                onClick={treat}
                className="flex-1 desk:flex-none">
                Choose a treatment{picked.size > 0 ? ` (${picked.size})` : ""}
              </Button>
              <Button
                variant={heading.tone === "act" ? "plain" : "main"}
                onClick={count}
                className="flex-1 desk:flex-none">
                Count {picked.size > 0 ? `(${picked.size})` : "colonies"}
              </Button>
              <StartRound apiaryId={view.apiary.id} today={view.today} className="flex-1 desk:flex-none" />
            </div>
          )}
        </div>
        {(view.apiary.access_note || view.apiary.forage_note) && (
          <p className="mt-3 text-sm text-ink-2">
            {view.apiary.access_note && (
              <>
                <strong className="text-ink">Access:</strong> {view.apiary.access_note}{" "}
              </>
            )}
            {view.apiary.forage_note && (
              <>
                <strong className="text-ink">Forage:</strong> {view.apiary.forage_note}
              </>
            )}
          </p>
        )}
        <div className="mt-4 flex flex-wrap items-center gap-x-6 gap-y-1 text-sm">
          {mayRecord && living.length > 0 && (
            <>
              <button
                type="button"
                className="min-h-8 underline underline-offset-4"
                onClick={() => pick(picked.size === living.length ? [] : living.map((one) => one.id))}>
                {picked.size === living.length ? "Pick none" : "Pick all"}
              </button>
              <button
                type="button"
                className="min-h-8 underline underline-offset-4"
                onClick={() =>
                  pick(living.filter((one) => one.level === "act" || one.level === "urgent").map((one) => one.id))
                }>
                Select colonies over the level
              </button>
              <button type="button" className="min-h-8 underline underline-offset-4" onClick={() => setPlanning(true)}>
                Choose colonies to sample
              </button>
              <button type="button" className="min-h-8 underline underline-offset-4" onClick={() => setAdding(true)}>
                Add a colony
              </button>
            </>
          )}
          {mayDiffer && (
            <button type="button" className="min-h-8 underline underline-offset-4" onClick={() => setDiffering(true)}>
              {view.has_own_policy ? "Its own policy" : "Set apiary policy"}
            </button>
          )}
          {mayKeep && (
            <button type="button" className="min-h-8 underline underline-offset-4" onClick={() => setChanging(true)}>
              Edit apiary
            </button>
          )}
          <button
            type="button"
            className="ml-auto min-h-8 underline underline-offset-4"
            onClick={() => set({ view: table ? undefined : "table" })}>
            {table ? "Show the strips" : "Show as a table"}
          </button>
        </div>
        {living.length === 0 && (
          <div className="mt-4">
            <Empty title="No colonies here">
              {mayRecord ? (
                <>
                  <p>Its colonies will stand here, each with its season.</p>
                  <Button variant="main" className="mt-3" onClick={() => setAdding(true)}>
                    Add a colony
                  </Button>
                </>
              ) : (
                "Its colonies will stand here, each with its season."
              )}
            </Empty>
          </div>
        )}
        {living.length > 0 && table && <StripTable view={view} living={living} />}
        {living.length > 0 && !table && (
          <div className="mt-1">
            <div className="grid grid-cols-1 desk:grid-cols-[14.5rem_minmax(0,1fr)_11.5rem]">
              <div className="hidden self-end pb-1.5 text-sm text-ink-2 desk:block">colony</div>
              <div ref={box}>
                <StripHead span={span} phases={view.phases} />
              </div>
              <div className="hidden self-end pb-1.5 pl-5 text-sm text-ink-2 desk:block">
                {view.axis === "mites_per_day" ? "mites a day" : "mites per 100 bees"}
              </div>
            </div>
            <ul>
              {living.map((colony, index) => (
                <ColonyRow
                  key={colony.id}
                  view={view}
                  colony={colony}
                  span={span}
                  first={index === 0}
                  current={colony.id === search.at}
                  picked={picked.has(colony.id)}
                  onPick={mayRecord ? () => toggle(colony.id) : null}
                />
              ))}
            </ul>
          </div>
        )}
        {living.length > 0 && <ApiaryFigures view={view} />}
        {others.length > 0 && (
          <section className="mt-8">
            <h2 className="border-b border-line pb-1 text-lg">No longer here</h2>
            <ul className="mt-2 flex flex-wrap gap-x-6 gap-y-1 text-ink-2">
              {others.map((one) => (
                <li key={one.id}>
                  <Link
                    to="/colonies/$id"
                    params={{ id: one.id }}
                    className="inline-block py-1 underline underline-offset-4">
                    {one.label}
                  </Link>
                  , {one.state} {shortDay(one.state_since, view.today)}
                </li>
              ))}
            </ul>
          </section>
        )}
        {differing && <OwnPolicy apiaryId={view.apiary.id} today={view.today} onClose={() => setDiffering(false)} />}
        {planning && <WhatToCount view={view} living={living} onClose={() => setPlanning(false)} onPick={pick} />}
        <AddColony
          open={adding}
          onClose={() => setAdding(false)}
          apiaryId={view.apiary.id}
          today={view.today}
          hives={view.hives}
          colonies={living}
        />
        <ApiaryForm
          key={view.apiary.version}
          open={changing}
          onClose={() => setChanging(false)}
          keepers={[]}
          apiary={view.apiary}
        />
      </Page>
      <KeyBar
        keys={[
          ["j", "next"],
          ["k", "before"],
          ["x", "pick"],
          ["c", "count"],
          ["o", "treat"],
          ["t", "table"],
          ["?", "all keys"],
        ]}>
        dotted: act level. bar: 95 % interval. square: over. diamond: from a board. blue: course
      </KeyBar>
    </>
  );
}

function ColonyRow({
  view,
  colony,
  span,
  first,
  current,
  picked,
  onPick,
}: {
  view: View;
  colony: Colony;
  span: Span;
  first: boolean;
  current: boolean;
  picked: boolean;
  onPick: (() => void) | null;
}) {
  const dense = view.colonies.length > 14;
  const age = colony.counted_on ? daysBetween(colony.counted_on, view.today) : null;
  return (
    <li
      id={`colony-${colony.id}`}
      className={`grid grid-cols-[minmax(0,auto)_minmax(0,1fr)] border-t border-line desk:grid-cols-[14.5rem_minmax(0,1fr)_11.5rem] ${current ? "bg-sheet shadow-[inset_3px_0_0_var(--ink)]" : ""}`}>
      <div className="flex items-start gap-2 py-2 pl-2">
        {onPick && (
          <label className="flex min-h-11 min-w-8 items-center">
            <span className="sr-only">Pick {colony.label}</span>
            <input type="checkbox" className="h-5 w-5" checked={picked} onChange={onPick} />
          </label>
        )}
        <div className="min-w-0">
          <Link
            to="/colonies/$id"
            params={{ id: colony.id }}
            className={`figure inline-block min-h-8 max-w-full pt-1 wrap-anywhere hover:underline ${colony.label.length > 8 ? "text-lg" : "text-2xl"}`}>
            {colony.label}
          </Link>
          <p className="flex items-center gap-1.5 text-sm text-ink-2">
            {colony.mark_seen && <QueenMark colour={colony.mark_seen} />}
            <span className="whitespace-nowrap">
              {colony.state === "queenless"
                ? "queenless"
                : colony.queen_year
                  ? `queen ${colony.queen_year}`
                  : "queen not known"}
              {colony.mark_seen && <span className="sr-only">, marked {colony.mark_seen}</span>}
            </span>
          </p>
          {colony.strength !== null && (
            <p className="whitespace-nowrap text-sm text-ink-2">
              {colony.strength} {colony.strength_unit} of bees
            </p>
          )}
        </div>
      </div>
      <div className="col-span-2 row-start-2 min-w-0 desk:col-span-1 desk:row-start-auto">
        <SeasonStrip
          span={span}
          height={dense ? 52 : 74}
          phases={view.phases}
          counts={view.counts.filter((one) => one.colony_id === colony.id)}
          courses={view.courses.filter((one) => one.colony_id === colony.id)}
          visits={view.visits.filter((one) => one.colony_id === colony.id).map((one) => one.visited_on)}
          level={colony.level}
          countedOn={colony.counted_on}
          label={`Colony ${colony.label}`}
          falls={view.axis === "mites_per_day"}
          scale={first}
          courseName={(id) => COURSE_SHORT[id] ?? id}
        />
      </div>
      <div className="flex items-center gap-3 self-center justify-self-end py-2 pl-3 desk:justify-self-stretch desk:pl-5">
        <LevelMark level={colony.level} size={20} />
        <div>
          <span
            className={`figure block text-2xl ${colony.level === "act" || colony.level === "urgent" ? "text-act" : ""}`}>
            {colony.level === "unknown" ? "?" : rate(colony.median ?? 0)}
          </span>
          <span className="block text-xs leading-tight text-ink-2">
            {colony.median === null
              ? "never counted"
              : colony.level === "unknown"
                ? `was ${rate(colony.median)}, ${age} days ago`
                : `${rate(colony.low ?? 0)} to ${rate(colony.high ?? 0)}, ${age === 0 ? "today" : `${age} d`}`}
          </span>
          <span className="block text-sm font-bold leading-tight">
            {levelWord(colony.level, view.scheme)}
            {colony.overdue_from ? ", overdue" : ""}
          </span>
        </div>
      </div>
    </li>
  );
}

function StripTable({ view, living }: { view: View; living: Colony[] }) {
  return (
    <div className="mt-3 overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <caption className="sr-only">Colonies of {view.apiary.name}</caption>
        <thead>
          <tr className="border-b-2 border-ink text-sm">
            {[
              "colony",
              "level",
              view.axis === "mites_per_day" ? "mites a day" : "per 100 bees",
              "95 % interval",
              "counted",
              "count again by",
              "why",
              "strength",
            ].map((head) => (
              <th key={head} scope="col" className="py-1 pr-4 font-semibold">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {living.map((one) => (
            <tr key={one.id} className="border-b border-line">
              <th scope="row" className="py-1.5 pr-4">
                <Link
                  to="/colonies/$id"
                  params={{ id: one.id }}
                  className="inline-block py-0.5 underline underline-offset-4">
                  {one.label}
                </Link>
              </th>
              <td className="pr-4">
                <LevelWord level={one.level} />
              </td>
              <td className="pr-4">{one.median === null ? "–" : rate(one.median)}</td>
              <td className="pr-4">{one.low === null ? "–" : `${rate(one.low)} to ${rate(one.high ?? 0)}`}</td>
              <td className="pr-4">
                {one.counted_on
                  ? `${shortDay(one.counted_on, view.today)}, ${one.mites} mites${one.bees_mean === null ? "" : ` in about ${Math.round(one.bees_mean)}`}`
                  : "never"}
              </td>
              <td className="pr-4">{one.recount_on ? relativeDay(one.recount_on, view.today) : "now"}</td>
              <td className="pr-4 text-sm">{LEVEL_REASON[one.level_reason] ?? ""}</td>
              <td className="pr-4">{one.strength === null ? "–" : `${one.strength} ${one.strength_unit}`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
