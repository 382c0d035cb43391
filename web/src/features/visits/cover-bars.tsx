/** The covers of a frame's sides as bars: both alike, side by side at the desk, one after the other in the field. */
import { clsx } from "clsx";
import { COVER_FILL, type Side } from "@/instruments/comb-side";
import { FillBar } from "@/instruments/fill-bar";
import { COVER } from "@/wording/words";
import { RARE, USUAL, covered } from "./covers";
import type { FrameRecord } from "./visit-queue";

type Props = {
  record: FrameRecord;
  previous: FrameRecord | null;
  /** The day of the visit that it is compared with, in short. */
  wasOn: string | undefined;
  fault: { field: string; message: string } | null;
  sides: readonly ("a" | "b")[];
  alike: boolean;
  more: boolean;
  set: (which: "a" | "b", part: Partial<Side>) => void;
};

export function CoverBars({ record, previous, wasOn, fault, sides, alike, more, set }: Props) {
  const rows = more ? [...USUAL, ...RARE] : USUAL;
  const over = sides.filter((which) => covered(record[which]) > 10);
  return (
    <>
      <div className={clsx("grid gap-x-4 gap-y-1.5", sides.length > 1 && "grid-cols-2")}>
        {!alike && sides.length > 1 && sides.map((which) => <h3 key={which}>Side {which}</h3>)}
        {rows.map((cover) =>
          sides.map((which) => (
            <FillBar
              key={`${cover}-${which}`}
              label={`${COVER[cover]}${alike ? "" : `, side ${which}`}`}
              says={COVER[cover]}
              name={`${cover}-${which}`}
              value={record[which]?.[cover] ?? null}
              fill={COVER_FILL[cover]}
              was={previous?.[which]?.[cover]}
              wasOn={wasOn}
              invalid={fault?.field.includes(`.${which}`) ?? false}
              onChange={(next) => set(which, { [cover]: next })}
            />
          )),
        )}
      </div>
      {over.map((which) => (
        <p key={which} role="alert" className="font-semibold text-act">
          {alike ? "" : `Side ${which}: `}
          {covered(record[which])} tenths: a side has 10. Take some back.
        </p>
      ))}
      {fault && over.length === 0 && (
        <p role="alert" className="font-semibold text-act">
          {fault.message}
        </p>
      )}
    </>
  );
}
