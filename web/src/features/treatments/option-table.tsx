/**
 * The options as a table: what each is expected to leave, and what it costs, in columns that are sorted by a tap. The
 * order of the choice is the first; no column weighs in another.
 */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { expectedQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { ErrorText } from "@/ui/field";
import { shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import type { OptionRow, Options } from "./option-rows";
import { VerdictMark } from "./verdict-mark";

type Expected = Schemas["Expected"];
type Column = "order" | "kills" | "left" | "visits" | "honey" | "queen" | "ends";
type Line = {
  row: OptionRow;
  left: { median: number; low: number; high: number } | null;
  kills: number;
  visits: number;
  honeyDays: number;
  queen: number;
  ends: string;
};

export function OptionTable({ view, rows, chosen, onChoose }: Props) {
  const [by, setBy] = useState<Column>("order");
  const [open, setOpen] = useState(false);
  const ids = view.colonies.map((one) => one.colony_id);
  const expected = useQuery({ ...expectedQuery(view.apiary.id, ids, view.start_on), enabled: open });
  const lines = sorted(linesOf(rows, expected.data), by);
  if (lines.length === 0) return null;
  const on = expected.data?.on;
  const heads: [Column, string][] = [
    ["order", "option"],
    ["kills", "kills, %"],
    ["left", on ? `left ${shortDay(on, view.start_on)}, per 100` : "left, per 100"],
    ["ends", "ends"],
    ["honey", "days without honey"],
    ["visits", "visits"],
    ["queen", "queens lost, %"],
  ];
  return (
    <details className="mt-4" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="min-h-9 cursor-pointer py-1 underline underline-offset-4">
        Compare what each leaves and costs
      </summary>
      {open && (
        <>
          <Untreated expected={expected.data} today={view.start_on} />
          <ErrorText error={expected.error} />
          <div className="mt-2 overflow-x-auto">
            <table className="w-full min-w-[46rem] border-collapse text-left">
              <caption className="sr-only">Options compared; a column heading sorts by it</caption>
              <thead className="text-sm text-ink-2">
                <tr>
                  {heads.map(([column, text]) => (
                    <th
                      key={column}
                      scope="col"
                      aria-sort={by === column ? "ascending" : "none"}
                      className="border-b-2 border-ink pr-3 align-bottom font-normal">
                      <button
                        type="button"
                        className={clsx(
                          "min-h-14 text-left underline-offset-4 desk:min-h-8",
                          by === column && "underline",
                        )}
                        onClick={() => setBy(column)}>
                        {text}
                      </button>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {lines.map((line) => (
                  <OptionLine
                    key={line.row.option.id}
                    line={line}
                    view={view}
                    loading={expected.isPending}
                    current={line.row.option.id === chosen}
                    onChoose={onChoose}
                  />
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </details>
  );
}

type Props = { view: Options; rows: OptionRow[]; chosen: string | undefined; onChoose: (option: string) => void };
type LineProps = { line: Line; view: Options; loading: boolean; current: boolean; onChoose: (option: string) => void };

function OptionLine({ line, view, loading, current, onChoose }: LineProps) {
  const { option, per } = line.row;
  const judged = per[0]?.judged;
  const cell = "border-b border-line py-1.5 pr-3 align-top";
  const hazards = option.needs_respirator ? "respirator" : option.kind === "chemical" ? "gloves" : "";
  return (
    <tr className={clsx(current && "bg-sheet")}>
      <th scope="row" className={clsx(cell, "font-normal")}>
        <button
          type="button"
          className={clsx("min-h-14 text-left font-semibold underline-offset-4 hover:underline desk:min-h-8")}
          onClick={() => onChoose(option.id)}>
          {option.short_name}
        </button>
        <span className="flex flex-wrap gap-x-2 text-sm text-ink-2">
          <VerdictMark verdict={line.row.all.verdict} />
          {hazards && <span>{hazards}</span>}
        </span>
      </th>
      <td className={cell}>{judged?.efficacy ? `${judged.efficacy.low} to ${judged.efficacy.high}` : "–"}</td>
      <td className={cell}>
        {line.left ? (
          <>
            <strong>{rate(line.left.median)}</strong> ({rate(line.left.low)} to {rate(line.left.high)})
          </>
        ) : loading ? (
          "…"
        ) : (
          "–"
        )}
      </td>
      <td className={cell}>{judged ? shortDay(judged.ends_on, view.start_on) : "–"}</td>
      <td className={cell}>{line.honeyDays}</td>
      <td className={cell}>{line.visits}</td>
      <td className={cell}>
        {option.queen_loss_pct.low} to {option.queen_loss_pct.high}
      </td>
    </tr>
  );
}

/** What becomes of the colony with the most mites if nothing more is done, and of whom nothing is known. */
function Untreated({ expected, today }: { expected: Expected | undefined; today: string }) {
  if (!expected) return <p className="mt-1 text-ink-2">Looking ahead …</p>;
  const known = expected.colonies.filter((one) => one.options.length > 0);
  const without = expected.colonies.filter((one) => one.options.length === 0);
  const nothing = known.map((one) => one.options.find((each) => each.option_id === null)?.left.median ?? 0);
  const day = shortDay(expected.on, today);
  return (
    <p className="mt-1 text-ink-2">
      {known.length > 0
        ? `Left on ${day}${expected.is_winter_bees ? ", the first winter bees" : ""}, by the forecast from each ` +
          `colony's own counts: the colony with the most. If nothing more is done: ${rate(Math.max(...nothing))}. `
        : ""}
      {without.length > 0 &&
        `No forecast for ${without.map((one) => one.label).join(", ")}: ${without[0]?.why_not ?? ""}.`}
    </p>
  );
}

function linesOf(rows: OptionRow[], expected: Expected | undefined): Line[] {
  return rows
    .filter((row) => row.all.verdict !== "never_here" && !row.all.is_supporting)
    .map((row) => {
      const judged = row.per[0]?.judged;
      const left = (expected?.colonies ?? []).flatMap(
        (one) => one.options.find((each) => each.option_id === row.option.id)?.left ?? [],
      );
      const most = left.reduce<(typeof left)[number] | null>((a, b) => (a && a.median >= b.median ? a : b), null);
      return {
        row,
        left: most && { median: most.median, low: most.low80, high: most.high80 },
        kills: judged?.efficacy ? -(judged.efficacy.low + judged.efficacy.high) : 0,
        visits: row.option.visits,
        honeyDays: judged?.honey_days ?? 0,
        queen: row.option.queen_loss_pct.high,
        ends: judged?.ends_on ?? "",
      };
    });
}

function sorted(lines: Line[], by: Column): Line[] {
  if (by === "order") return lines;
  const of: Record<Exclude<Column, "order">, (line: Line) => number | string> = {
    kills: (line) => line.kills,
    left: (line) => line.left?.median ?? Infinity,
    visits: (line) => line.visits,
    honey: (line) => line.honeyDays,
    queen: (line) => line.queen,
    ends: (line) => line.ends,
  };
  const value = of[by];
  return [...lines].sort((a, b) => (value(a) < value(b) ? -1 : value(a) > value(b) ? 1 : 0));
}
