/** The colonies of an apiary as a table of the same data. */
import { clsx } from "clsx";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { useSentence } from "@/features/session/use-sentence";
import { relativeDay, shortDay } from "@/ui/dates";
import { LevelWord } from "@/ui/level";
import { useLongList } from "@/ui/long-list";
import { LongRows } from "@/ui/long-rows";
import { SortButton } from "@/ui/sort-button";
import { rate } from "@/ui/units";
import type { ColonyOrder } from "./apiary-order";
import type { useSelected } from "./use-selected";
import { LEVEL_REASON } from "@/wording/words";

/** What is forecast of a colony, in its sentence. */
function Forecast({ view, colony }: { view: View; colony: Colony }) {
  const say = useSentence();
  const outlook = view.forecasts.find((one) => one.colony_id === colony.id);
  return <td className="pr-4 text-sm">{outlook ? say(outlook.turns) : "none"}</td>;
}

type View = Schemas["ApiaryView"];
type Colony = Schemas["ColonyOverview"];

type Props = { view: View; living: Colony[]; selected: ReturnType<typeof useSelected> };

/** A row before it has been drawn. */
const ROW_PX = 37;

export function ColonyTable({ view, living, selected: { order, orderBy, index: current } }: Props) {
  const rows = useLongList<HTMLTableElement>({ count: living.length, estimate: ROW_PX, current });
  const heads: [string, ColonyOrder?][] = [
    ["colony", "name"],
    ["level", "danger"],
    [view.axis === "mites_per_day" ? "mites a day" : "per 100 bees", "highest"],
    ["95 % interval"],
    ["counted", "counted"],
    ["forecast", "forecast"],
    ["count again by"],
    ["why"],
    ["strength", "strength"],
  ];
  return (
    <div className="mt-3 overflow-x-auto">
      <table ref={rows.container} className="w-full border-collapse text-left">
        <caption className="sr-only">Colonies of {view.apiary.name}</caption>
        <thead>
          <tr className="border-b-2 border-ink text-sm">
            {heads.map(([head, by]) => (
              <th
                key={head}
                scope="col"
                className="py-1 pr-4 font-semibold"
                aria-sort={by !== undefined && by === order ? "ascending" : undefined}>
                {by ? <SortButton name={head} inForce={by === order} onClick={() => orderBy(by)} /> : head}
              </th>
            ))}
          </tr>
        </thead>
        <LongRows rows={rows}>
          {(index) => {
            const one = living[index];
            return (
              one && (
                <Row
                  key={one.id}
                  index={index}
                  measure={rows.measure}
                  view={view}
                  colony={one}
                  current={index === current}
                />
              )
            );
          }}
        </LongRows>
      </table>
    </div>
  );
}

type RowProps = { index: number; measure: (row: Element | null) => void; view: View; colony: Colony; current: boolean };

function Row({ index, measure, view, colony: one, current }: RowProps) {
  return (
    <tr
      ref={measure}
      data-index={index}
      className={clsx("border-b border-line", current && "bg-sheet shadow-[inset_3px_0_0_var(--ink)]")}>
      <th scope="row" className="py-1.5 pr-4">
        <Link to="/colonies/$id" params={{ id: one.id }} className="inline-block py-0.5 underline underline-offset-4">
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
          ? `${shortDay(one.counted_on, view.today)}, ${one.mites} mites` +
            (one.bees_mean === null ? "" : ` in about ${Math.round(one.bees_mean)}`)
          : "never"}
      </td>
      <Forecast view={view} colony={one} />
      <td className="pr-4">{one.recount_on ? relativeDay(one.recount_on, view.today) : "now"}</td>
      <td className="pr-4 text-sm">{LEVEL_REASON[one.level_reason] ?? ""}</td>
      <td className="pr-4">{one.strength === null ? "–" : `${one.strength} ${one.strength_unit}`}</td>
    </tr>
  );
}
