/** An apiary in the order of the day: by when its work must begin, how its colonies stand, what is to be done there. */
import { clsx } from "clsx";
import type { ReactNode } from "react";
import type { Schemas } from "@/client/types";
import { RateRow } from "@/instruments/rate-row";
import { plural, relativeDay, shortDay } from "@/ui/dates";
import { inShort } from "./lines";

type Props = {
  id: string;
  /** Where the row stands in the whole list, and what takes its height. */
  place: { index: number; of: number; measure: (row: Element | null) => void };
  work: Schemas["WorklistView"];
  apiary: Schemas["ApiaryWork"];
  ticks: boolean;
  chosen: boolean;
  onChoose: () => void;
  children: ReactNode;
};

/** The columns of the rows and of what stands over them. */
export const COLUMNS = "desk:grid-cols-[6rem_10rem_minmax(0,1fr)_10rem]";

export function ApiaryRow({ id, place, work, apiary, ticks, chosen, onChoose, children }: Props) {
  const [first, second, ...rest] = apiary.due;
  return (
    <li
      ref={place.measure}
      data-index={place.index}
      aria-posinset={place.index + 1}
      aria-setsize={place.of}
      className={clsx(
        "border-b border-line py-2.5 pl-3 desk:py-1.5",
        chosen && "bg-sheet shadow-[inset_4px_0_0_var(--ink)]",
      )}>
      <div
        onClick={onChoose}
        className={clsx("grid cursor-pointer grid-cols-[6rem_minmax(0,1fr)] items-center gap-x-4 gap-y-1", COLUMNS)}>
        <span>
          <span className={clsx("block font-head text-xl font-semibold leading-6", apiary.late > 0 && "text-act")}>
            {shortDay(apiary.by, work.today)}
          </span>
          <span className={clsx("block text-sm", apiary.late > 0 ? "font-semibold text-act" : "text-ink-2")}>
            {apiary.late > 0 ? `${plural(apiary.late, "day")} late` : relativeDay(apiary.by, work.today)}
          </span>
        </span>
        <button
          type="button"
          id={id}
          data-keys="through"
          aria-current={chosen || undefined}
          className="min-w-0 text-left hover:underline">
          <span className="block font-head text-lg leading-tight font-semibold wrap-anywhere">{apiary.apiary}</span>
          <span className="block truncate text-sm text-ink-2">{apiary.keeper}</span>
        </button>
        <span className="col-span-2 desk:col-span-1">
          <RateRow colonies={apiary.colonies} act={work.act_at} falls={work.scheme === "fall_phase"} ticks={ticks} />
        </span>
        <span className={clsx("col-span-2 desk:col-span-1", chosen && "hidden desk:block")}>
          <strong className="block leading-6">{first && inShort(first)}</strong>
          {second && (
            <span className="text-sm text-ink-2">
              {inShort(second)}
              {rest.length > 0 && `, and ${rest.length} more`}
            </span>
          )}
        </span>
      </div>
      {children}
    </li>
  );
}
