/**
 * Options by days: when comes before what. A filled square may be placed, an open one has cautions, a question asks for
 * something first; a word says what stands against it. A heavy line is where it comes too late for the winter bees.
 */
import { clsx } from "clsx";
import { useEffect, useRef, type KeyboardEvent } from "react";
import type { Schemas } from "@/client/types";
import { Term } from "@/features/help/term";
import { useSession } from "@/features/session/use-session";
import { dayNumber, weekday } from "@/ui/dates";
import { useDesk } from "@/ui/use-desk";
import { temperature } from "@/ui/units";
import { OBSTACLE, OPTION_GROUP } from "@/wording/words";
import type { Options } from "./option-rows";

type Row = Schemas["OptionDaysView"];
type Day = Schemas["OptionDay"];
const WEEKDAY = ["Su", "Mo", "Tu", "We", "Th", "Fr", "Sa"];

type Props = { view: Options; chosen: string | undefined; onChoose: (option: string, day: string) => void };

export function OptionGrid({ view, chosen, onChoose }: Props) {
  const { person } = useSession();
  const body = useRef<HTMLTableElement>(null);
  // In the field the days scroll: the one chosen is in sight from the beginning.
  useEffect(() => {
    body.current
      ?.querySelector("[data-cell][aria-pressed=true]")
      ?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [view.start_on, chosen]);
  const groups = (["any_brood", "broodless", "supporting"] as const).map((group) => ({
    group,
    rows: view.days.filter((one) => one.group === group && one.days.some((day) => day.ready || day.asks)),
  }));
  return (
    <div className="-mx-4 overflow-x-auto px-4 desk:mx-0 desk:px-0">
      <table
        ref={body}
        className="w-[42rem] table-fixed border-collapse text-center desk:w-full"
        onKeyDown={(event) => move(event, body.current)}>
        <caption className="sr-only">Options by days; arrow keys move, Return chooses</caption>
        <Days view={view} />
        {groups.map(
          ({ group, rows }) =>
            rows.length > 0 && (
              <tbody key={group}>
                <tr>
                  <th scope="rowgroup" colSpan={2 + view.forecast.length} className="pt-3 text-left text-sm">
                    <span className="sticky left-0">{OPTION_GROUP[group]}</span>
                  </th>
                </tr>
                {rows.map((row) => (
                  <OptionRow key={row.option_id} view={view} row={row} chosen={chosen} onChoose={onChoose} />
                ))}
              </tbody>
            ),
        )}
      </table>
      <Legend degrees={person.temperature === "fahrenheit" ? "°F" : "°C"} />
    </div>
  );
}

/** Arrow keys go from cell to cell; the browser itself does the rest. */
function move(event: KeyboardEvent, table: HTMLElement | null): void {
  const by = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowDown: [1, 0], ArrowUp: [-1, 0] }[event.key];
  const here = (event.target as HTMLElement).closest<HTMLElement>("[data-cell]");
  if (!by || !here || !table) return;
  const rows = [...table.querySelectorAll<HTMLElement>("tr:has([data-cell])")];
  const row = rows.findIndex((one) => one.contains(here));
  const column = [...(rows[row]?.querySelectorAll("[data-cell]") ?? [])].indexOf(here);
  const next = rows[row + (by[0] ?? 0)]?.querySelectorAll<HTMLElement>("[data-cell]").item(column + (by[1] ?? 0));
  if (!next) return;
  event.preventDefault();
  next.focus();
}

/** Over the grid each day with its weather. */
function Days({ view }: { view: Options }) {
  const { person } = useSession();
  const desk = useDesk();
  return (
    <thead className="text-sm">
      <tr className="align-bottom">
        {desk && (
          <>
            <th scope="col" className="w-44 pb-1 text-left font-normal text-ink-2">
              option
            </th>
            <th scope="col" className="w-18 px-1 pb-1 font-normal text-ink-2">
              kills
            </th>
          </>
        )}
        {view.forecast.map((day) => (
          <th
            key={day.day}
            scope="col"
            aria-label={weekday(day.day)}
            className={clsx(
              "w-14 px-0.5 pb-1 font-normal leading-tight whitespace-nowrap desk:w-auto",
              day.day === view.start_on ? "border-b-[3px] border-ink font-bold" : "border-b border-line",
            )}>
            {WEEKDAY[new Date(dayNumber(day.day) * 86_400_000).getUTCDay()]} {Number(day.day.slice(8))}
            <span className="block text-ink-2">{temperature(day.tmax_c, person).replace(/ °[CF]/, "°")}</span>
            <span className="block text-xs text-ink-2">
              {day.rain_mm >= 1 ? `${Math.round(day.rain_mm)} mm` : "dry"}
            </span>
          </th>
        ))}
      </tr>
    </thead>
  );
}

function OptionRow({ view, row, chosen, onChoose }: Props & { row: Row }) {
  const desk = useDesk();
  const option = view.catalogue.find((one) => one.id === row.option_id);
  if (!option) return null;
  const here = row.option_id === chosen;
  const kills = row.efficacy ? `${row.efficacy.low}–${row.efficacy.high} %` : "?";
  const ground = here ? "bg-sheet" : "bg-paper";
  const name = (
    <>
      <span className="font-head text-lg leading-tight font-semibold">{option.short_name}</span>
      <span className="block text-sm leading-tight text-ink-2">
        {!desk && `kills ${kills}, `}
        {option.visits === 1 ? "1 visit" : `${option.visits} visits`}
        {option.queen_loss_pct.high > 0 && `, queen lost ${option.queen_loss_pct.low}–${option.queen_loss_pct.high} %`}
      </span>
    </>
  );
  const cells = row.days.map((day, at) => (
    <td
      key={day.day}
      className={clsx(
        "p-0",
        day.in_time === false && row.days[at - 1]?.in_time !== false && "border-l-4 border-l-ink",
      )}>
      <Cell
        day={day}
        name={option.short_name}
        total={view.colonies.length}
        chosen={here && day.day === view.start_on}
        onChoose={() => onChoose(row.option_id, day.day)}
      />
    </td>
  ));
  // In the field the name has a line of its own over its days.
  if (!desk)
    return (
      <>
        <tr className={clsx("border-t border-line", ground)}>
          <th scope="row" colSpan={cells.length} className="pt-1.5 text-left font-normal">
            <span className="sticky left-0 inline-block">{name}</span>
          </th>
        </tr>
        <tr className={ground}>{cells}</tr>
      </>
    );
  return (
    <tr className={clsx("border-t border-line", ground)}>
      <th scope="row" className="py-1 pr-2 text-left font-normal">
        {name}
      </th>
      <td className="px-1 text-sm whitespace-nowrap">{kills}</td>
      {cells}
    </tr>
  );
}

type CellProps = { day: Day; name: string; total: number; chosen: boolean; onChoose: () => void };

function Cell({ day, name, total, chosen, onChoose }: CellProps) {
  const open = day.ready > 0 || day.asks > 0;
  const some = day.ready > 0 && day.ready < total ? `${day.ready} of ${total}` : "";
  const said = day.obstacle ? OBSTACLE[day.obstacle] : SAID[day.verdict];
  const late = day.in_time === false ? ", too late for winter bees" : "";
  return (
    <button
      type="button"
      data-cell
      aria-pressed={chosen}
      aria-label={`${name}, ${weekday(day.day)}: ${said}${some && `, ${some} colonies`}${late}`}
      onClick={onChoose}
      className={clsx(
        "grid min-h-14 w-full place-content-center justify-items-center text-sm leading-tight desk:min-h-12",
        chosen && "outline-[3px] -outline-offset-[3px] outline-ink",
        open && day.in_time !== false ? "bg-clear-wash" : "text-ink-2",
        open && day.verdict !== "allowed" && "cautioned",
      )}>
      {open ? <Mark verdict={day.verdict} /> : said}
      {open && (some || day.in_time === false) && <span>{day.in_time === false ? "late" : some}</span>}
    </button>
  );
}

const SAID: Record<Day["verdict"], string> = {
  allowed: "may be placed",
  allowed_with_cautions: "may be placed, with cautions",
  asks: "asks something first",
  not_now: "not on this day",
  never_here: "never here",
};

function Mark({ verdict }: { verdict: Day["verdict"] }) {
  if (verdict === "asks") return <strong className="text-lg leading-none text-ink">?</strong>;
  return (
    <svg width="15" height="15" viewBox="0 0 15 15" aria-hidden="true" className="text-clear">
      <rect
        x="1.500"
        y="1.500"
        width="12"
        height="12"
        fill={verdict === "allowed" ? "currentColor" : "var(--sheet)"}
        stroke="currentColor"
        strokeWidth="2.500"
      />
    </svg>
  );
}

function Legend({ degrees }: { degrees: string }) {
  return (
    <p className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-sm text-ink-2">
      <span className="inline-flex items-center gap-1.5">
        <Mark verdict="allowed" /> may be placed
      </span>
      <span className="inline-flex items-center gap-1.5">
        <Mark verdict="allowed_with_cautions" /> with cautions
      </span>
      <span className="inline-flex items-center gap-1.5">
        <Mark verdict="asks" /> asks something first
      </span>
      <Term id="verdict">what the words mean</Term>
      <span>
        a word: what stands against it; heavy line: from here too late for winter bees; highest of the day in {degrees}
      </span>
    </p>
  );
}
