/** Lots in rows: what it is, how much is left, until when it is good. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { oneDecimal, quantity } from "@/ui/units";
import { LOT_STATE } from "@/wording/words";

type Props = { lots: Schemas["LotView"][]; today: string; open: string | undefined; onOpen: (lot: string) => void };

const OVER: readonly Schemas["LotView"]["state"][] = ["expired", "used_up"];

export function Lots({ lots, today, open, onOpen }: Props) {
  const inUse = lots.filter((one) => !OVER.includes(one.state));
  const over = lots.filter((one) => OVER.includes(one.state));
  const row = (one: Schemas["LotView"]) => (
    <li key={one.lot.id}>
      <button
        type="button"
        aria-current={one.lot.id === open ? "true" : undefined}
        onClick={() => onOpen(one.lot.id)}
        className={clsx(
          "grid min-h-14 w-full grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4",
          "border-b border-line px-2 py-2 text-left",
          one.lot.id === open && "bg-sheet shadow-[inset_3px_0_0_var(--ink)]",
        )}>
        <span className="font-semibold">{one.lot.product}</span>
        <span className="text-right">
          <span className="figure text-xl">{oneDecimal(one.left)}</span> of {quantity(one.lot.quantity, one.lot.unit)}
        </span>
        <span className="text-sm text-ink-2">
          Lot {one.lot.lot || "not recorded"}
          {one.lot.keeper && `, ${one.lot.keeper}`}
        </span>
        <span
          className={clsx(
            "text-right text-sm",
            one.state === "expired" || one.state === "overdrawn" ? "font-semibold text-act" : "text-ink-2",
          )}>
          {LOT_STATE[one.state]}
          {one.lot.expires_on && `, use by ${shortDay(one.lot.expires_on, today)}`}
        </span>
      </button>
    </li>
  );
  return (
    <>
      <ul className="border-t border-line">{inUse.map(row)}</ul>
      {over.length > 0 && (
        <details className="mt-3" open={over.some((one) => one.lot.id === open)}>
          <summary className="min-h-8 cursor-pointer py-1 font-semibold underline underline-offset-4">
            Used up or out of date: {over.length}
          </summary>
          <ul className="border-t border-line">{over.map(row)}</ul>
        </details>
      )}
    </>
  );
}
