/** The covers of a frame's sides as bars: both alike, or side by side. */
import { clsx } from "clsx";
import { COVER_FILL, type Side } from "@/instruments/box-plan";
import { FillBar } from "@/instruments/fill-bar";
import { COVER } from "@/wording/words";
import { RARE, USUAL, covered } from "./covers";
import type { FrameRecord } from "./visit-queue";

type Props = {
  record: FrameRecord;
  previous: FrameRecord | null;
  fault: { field: string; message: string } | null;
  alike: boolean;
  more: boolean;
  set: (which: "a" | "b", part: Partial<Side>) => void;
};

export function CoverBars({ record, previous, fault, alike, more, set }: Props) {
  const rows = more ? [...USUAL, ...RARE] : USUAL;
  const columns = alike ? (["a"] as const) : (["a", "b"] as const);
  return (
    <>
      <div
        className={clsx(
          "grid gap-x-3 gap-y-1.5",
          alike
            ? "grid-cols-[4.1rem_1fr_1.5rem] desk:grid-cols-[6.5rem_1fr_1.5rem]"
            : "grid-cols-[4.1rem_1fr_1.5rem_1fr_1.5rem]",
          "items-center",
        )}>
        {!alike && (
          <>
            <span />
            <span className="col-span-2 font-semibold">Side a</span>
            <span className="col-span-2 font-semibold">Side b</span>
          </>
        )}
        {rows.map((cover) => (
          <div key={cover} className="contents">
            <span className="font-semibold leading-tight">{COVER[cover]}</span>
            {columns.map((which) => {
              const value = record[which]?.[cover] ?? null;
              return (
                <div key={which} className="contents">
                  <FillBar
                    label={`${COVER[cover]}${alike ? "" : `, side ${which}`}`}
                    name={`${cover}-${which}`}
                    value={value}
                    fill={COVER_FILL[cover] ?? ""}
                    was={previous?.[which]?.[cover] ?? undefined}
                    invalid={fault?.field.includes(`.${which}`) ?? false}
                    onChange={(next) => set(which, { [cover]: next })}
                  />
                  <span className="figure text-right text-xl">{value ?? "–"}</span>
                </div>
              );
            })}
          </div>
        ))}
      </div>
      {columns.map(
        (which) =>
          covered(record[which]) > 10 && (
            <p key={which} role="alert" className="font-semibold text-act">
              {alike ? "" : `Side ${which}: `}
              {covered(record[which])} tenths: a side has 10. Take some back.
            </p>
          ),
      )}
      {fault && columns.every((which) => covered(record[which]) <= 10) && (
        <p role="alert" className="font-semibold text-act">
          {fault.message}
        </p>
      )}
    </>
  );
}
