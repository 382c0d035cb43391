/** The autumn of every apiary in a line: who must be fed by when, what goes before, what to buy. */
import { clsx } from "clsx";
import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useDeferredValue } from "react";
import { autumnsQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { plural, shortDay } from "@/ui/dates";
import { Loaded } from "@/ui/loaded";
import { useLongList, useMore } from "@/ui/long-list";
import { LongRows } from "@/ui/long-rows";
import { weight } from "@/ui/units";
import { PROGRAMME, colonies } from "@/wording/words";

type View = Schemas["AutumnsView"];
type Apiary = Schemas["ApiaryAutumn"];
type Word = Schemas["Programme"]["word"];

const ROW_PX = 76;
const NAME =
  "inline-flex min-h-14 items-center font-head text-lg font-semibold leading-tight hover:underline desk:min-h-7";
/** The columns, and where each is shown: on the phone what goes before stands with the colonies. */
const HEADS = [
  ["Apiary", ""],
  ["Colonies", ""],
  ["Goes before", "hidden desk:table-cell"],
  ["Feed", ""],
  ["Close down", "hidden desk:table-cell"],
] as const;
/** The most pressing first. */
const WORDS: Word[] = ["too_late", "tight", "not_known", "on_time", "enough"];

export function AllAutumns() {
  const { find } = useSearch({ from: "/in/autumn" });
  const asked = useDeferredValue((find ?? "").trim());
  const query = useInfiniteQuery({ ...autumnsQuery(asked), placeholderData: keepPreviousData });
  const more = useMore(query);
  const navigate = useNavigate({ from: "/autumn" });
  return (
    <>
      <label className="mt-4 block max-w-sm">
        <span className="mb-1 block font-semibold">Find</span>
        <input
          type="search"
          className="input"
          placeholder="Apiary or keeper"
          maxLength={120}
          value={find ?? ""}
          onChange={(event) => void navigate({ search: { find: event.target.value || undefined }, replace: true })}
        />
      </label>
      <Loaded query={query} what="Putting the autumn together …">
        {(view) => <Table view={view} more={more} />}
      </Loaded>
    </>
  );
}

function Table({ view, more }: { view: View; more: (() => void) | undefined }) {
  const units = useSession().person;
  const rows = useLongList<HTMLTableElement>({ count: view.apiaries.length, estimate: ROW_PX, current: -1, more });
  const sugar = view.apiaries.reduce((sum, one) => sum + one.sugar_kg, 0);
  return (
    <div className="mt-5 min-w-0">
      <p>
        <span className="figure text-3xl">{weight(sugar, units)}</span> of sugar still to be fed at{" "}
        {plural(view.apiaries.length, "apiary", "apiaries")}
        {view.next !== null && ", those shown so far"}
      </p>
      <table ref={rows.container} className="mt-3 w-full border-collapse">
        <caption className="sr-only">The autumn of each apiary</caption>
        <thead>
          <tr className="border-b-2 border-ink text-left text-sm">
            {HEADS.map(([head, shown]) => (
              <th key={head} scope="col" className={clsx("pr-3 font-semibold", shown)}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <LongRows rows={rows}>
          {(index) => {
            const one = view.apiaries[index];
            return one && <Row key={one.apiary_id} index={index} measure={rows.measure} of={one} today={view.today} />;
          }}
        </LongRows>
      </table>
      {view.apiaries.length === 0 && <p className="py-6 text-ink-2">No apiary fits. Clear the search.</p>}
    </div>
  );
}

type RowProps = { index: number; measure: (row: Element | null) => void; of: Apiary; today: string };

function Row({ index, measure, of, today }: RowProps) {
  const units = useSession().person;
  const day = (iso: string) => shortDay(iso, today);
  const before = goesBefore(of, day);
  return (
    <tr ref={measure} data-index={index} className="border-b border-line align-top">
      <td className="py-2 pr-3 wrap-anywhere">
        <Link to="/autumn" search={{ apiary: of.apiary_id }} className={NAME}>
          {of.name}
        </Link>
        <span className="block text-sm text-ink-2">{of.keeper}</span>
      </td>
      <td className="py-2 pr-3 text-sm">
        {WORDS.filter((word) => of.of[word]).map((word) => (
          <span key={word} className={clsx("block", word === "too_late" && "font-semibold text-act")}>
            {of.of[word]} {PROGRAMME[word]}
          </span>
        ))}
        {of.colonies === 0 && <span className="text-ink-2">no colonies</span>}
        {of.untouched > 0 && <span className="block font-semibold">{colonies(of.untouched)}: feed untouched</span>}
        {before.length > 0 && <span className="block text-ink-2 desk:hidden">{before.join("; ")}</span>}
      </td>
      <td className="hidden py-2 pr-3 text-sm text-ink-2 desk:table-cell">
        {before.map((one) => (
          <span key={one} className="block">
            {one}
          </span>
        ))}
      </td>
      <td className="min-w-24 py-2 text-sm desk:pr-3">
        {of.sugar_kg > 0 && (
          <>
            <span className="figure block whitespace-nowrap text-lg">{weight(of.sugar_kg, units)}</span>
            <span className="block">
              {of.first_round && <span className="hidden desk:inline">from {day(of.first_round)}, </span>}
              {of.begin_by && `begin by ${day(of.begin_by)}`}
            </span>
            <span className="hidden text-ink-2 desk:block">
              {of.ends_on && `done about ${day(of.ends_on)}`}
              {of.finish_by && `, at the latest ${day(of.finish_by)}`}
            </span>
          </>
        )}
      </td>
      <td className="hidden py-2 text-sm desk:table-cell">{of.close_on && day(of.close_on)}</td>
    </tr>
  );
}

/** What must be over before anything is fed. */
function goesBefore(of: Apiary, day: (iso: string) => string): string[] {
  const found = [];
  if (of.supers_on > 0) found.push(`supers off: ${colonies(of.supers_on)}`);
  if (of.to_treat > 0) found.push(`over the threshold, not treated: ${colonies(of.to_treat)}`);
  if (of.in_course > 0 && of.treated_until)
    found.push(`treatment until ${day(of.treated_until)}: ${colonies(of.in_course)}`);
  return found;
}
