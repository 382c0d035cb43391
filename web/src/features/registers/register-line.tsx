/** A line of the register: what is known of the placing now, what it lacks, and every entry since it began. */
import { clsx } from "clsx";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { TextLink } from "@/ui/link";
import { longDay, shortDay } from "@/ui/dates";
import { quantity } from "@/ui/units";
import { ENTRY_KIND, REGISTER_FIELD, REGISTER_RESULT } from "@/wording/words";

type LineView = Schemas["LineView"];
type Props = { of: LineView; today: string; ofKeeper: boolean };

export function RegisterLine({ of, today, ofKeeper }: Props) {
  const { line: row, entries } = of;
  const [open, setOpen] = useState(false);
  const line = row.line;
  const since = entries.filter((one) => one.kind !== "line");
  const number = ofKeeper ? row.keeper_number : row.number;
  return (
    <li className={clsx("border-b border-line py-1", row.is_void && "text-ink-2")}>
      <div
        className={clsx(
          "grid grid-cols-[4.5rem_minmax(0,1fr)] items-baseline gap-x-3",
          "desk:grid-cols-[4.5rem_6rem_minmax(0,1fr)_minmax(0,1.4fr)_9rem_10rem]",
        )}>
        <button
          type="button"
          aria-expanded={open}
          aria-label={`Number ${number}: all of it`}
          className="min-h-14 text-left underline underline-offset-4 desk:min-h-8"
          onClick={() => setOpen(!open)}>
          <span className="figure text-lg">{number}</span>
        </button>
        <span className="text-ink-2">{shortDay(line.placed_on, today)}</span>
        <span className="col-start-2 desk:col-start-auto">
          <TextLink to="/courses/$id" params={{ id: row.course_id }} className="font-semibold">
            {line.colony}
          </TextLink>{" "}
          at {line.apiary}
        </span>
        <span className={clsx("col-start-2 desk:col-start-auto", row.is_void && "line-through")}>{line.option}</span>
        <span className="col-start-2 desk:col-start-auto">
          {line.quantity === null ? "dose not recorded" : quantity(line.quantity, line.unit)}
          <span className="text-sm text-ink-2 desk:block">
            <span className="desk:hidden">, </span>
            {line.lot ? `lot ${line.lot}` : "no lot"}
          </span>
        </span>
        <span className="col-start-2 desk:col-start-auto">
          {row.is_void ? <strong className="text-act">void</strong> : resultOf(line)}
          {row.missing.length > 0 && !row.is_void && <span className="block text-sm font-semibold">incomplete</span>}
          {since.some((one) => one.kind === "amended") && <span className="block text-sm">amended</span>}
        </span>
      </div>
      {open && (
        <div className="desk:ml-[5.25rem]">
          {row.missing.length > 0 && (
            <p className="py-1">
              <strong>Not recorded:</strong> {row.missing.map((one) => REGISTER_FIELD[one]).join(", ")}.
            </p>
          )}
          <Facts of={of} />
          <Entries entries={since} today={today} ofKeeper={ofKeeper} />
        </div>
      )}
    </li>
  );
}

function resultOf(line: Schemas["Line"]): string {
  if (line.result) return REGISTER_RESULT[line.result] ?? line.result;
  return line.ended_on === null ? "in the hive" : "not yet verified";
}

function Facts({ of: { line: row, kept_until } }: { of: LineView }) {
  const line = row.line;
  const facts: [string, string | null][] = [
    ["Keeper", `${line.keeper}, registration ${line.registration || "not recorded"}`],
    ["Place", `${line.latitude.toFixed(4)}, ${line.longitude.toFixed(4)}`],
    ["Reason", line.treated_for],
    ["Product", [line.product, line.form, line.strength, line.active].filter(Boolean).join(", ")],
    ["Use by", line.expires_on && longDay(line.expires_on)],
    ["Bought", [line.supplier, line.bought_on && longDay(line.bought_on), line.receipt].filter(Boolean).join(", ")],
    ["Out of the hive", line.ended_on && longDay(line.ended_on)],
    [
      "Withdrawal",
      `${line.withdrawal_days} days, ${
        line.honey_clear_on ? `honey clear ${longDay(line.honey_clear_on)}` : "honey: not known before it is out"
      }`,
    ],
    ["Honey supers", line.supers],
    ["Applied by", line.applied_by],
    ["Prescriber", line.prescriber],
    ["Remains", line.disposal],
    ["Adverse reaction", line.adverse],
    ["Set aside", line.exceptions],
    ["Known from", line.source],
    ["Entered", row.entered_on === line.placed_on ? null : longDay(row.entered_on)],
    ["Kept until", longDay(kept_until)],
  ];
  return (
    <dl
      className={clsx(
        "grid grid-cols-[8rem_minmax(0,1fr)] gap-x-3 gap-y-0.5 py-1 text-[0.95rem]",
        "desk:grid-cols-[8rem_minmax(0,1fr)_8rem_minmax(0,1fr)]",
      )}>
      {facts
        .filter(([, value]) => value)
        .map(([name, value]) => (
          <div key={name} className="col-span-2 grid grid-cols-subgrid">
            <dt className="text-ink-2">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
    </dl>
  );
}

type EntriesProps = { entries: Schemas["RegisterEntry"][]; today: string; ofKeeper: boolean };

function Entries({ entries, today, ofKeeper }: EntriesProps) {
  if (entries.length === 0) return null;
  return (
    <ol className="border-t border-dashed border-line-2 py-1 text-[0.95rem]" aria-label="Entries since">
      {entries.map((one) => (
        <li key={one.number} className="grid grid-cols-[3.5rem_minmax(0,1fr)] gap-2 py-0.5">
          <span className="figure text-ink-2">{ofKeeper ? one.keeper_number : one.number}</span>
          <span>
            {shortDay(one.entered_at.slice(0, 10), today)}, {one.by_name || "the association"}:{" "}
            <strong className={one.kind === "added" ? "font-normal" : ""}>{ENTRY_KIND[one.kind]}</strong>
            {one.changes.map((change) => (
              <Changed key={change.field} change={change} />
            ))}
            {one.why && <span className="block text-ink-2">Why: {one.why}</span>}
          </span>
        </li>
      ))}
    </ol>
  );
}

const said = (value: string | number | boolean | null): string => (value === null ? "" : String(value));

function Changed({ change: { field, old, new: now } }: { change: Schemas["FieldChange"] }) {
  return (
    <span className="block">
      {REGISTER_FIELD[field]}: {said(old) && <s className="text-ink-2">{said(old)}</s>} {said(now) || "not recorded"}
    </span>
  );
}
