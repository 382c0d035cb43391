/** What is pressed while counting, by the method: large for gloves, each with its key. */
import { clsx } from "clsx";
import { Button } from "@/ui/button";
import { begun, onBoard, type CountState, type Jar } from "./jars";

const BIG = "figure touch-manipulation rounded-[2px] bg-ink text-sheet select-none active:bg-ink-2 disabled:bg-ink-3";

export type Acts = {
  mite: () => void;
  cell: (what: "free" | "infested" | "another") => void;
  look: (seen: boolean) => void;
  back: () => void;
  part: () => void;
  next: () => void;
  record: () => void;
};

export function TallyKeys({ jar, state, last, acts }: { jar: Jar; state: CountState; last: boolean; acts: Acts }) {
  const counting = state.state !== "recorded" && state.state !== "sending";
  const board = onBoard(jar.method);
  const part = board ? (jar.squaresInAll > 1 ? "Next square" : null) : jar.method === "wash" ? "Shake again" : null;
  const full = board ? jar.shakes.length >= jar.squaresInAll : jar.shakes.length >= 8;
  const read = jar.picture !== null;
  const nothing = jar.method === "drone_brood" ? jar.opened === 0 : jar.method === "look" ? jar.seen === null : false;
  return (
    <div className="grid grid-cols-6 gap-2">
      {jar.method === "drone_brood" ? (
        <>
          <button
            type="button"
            data-big
            data-keys="through"
            disabled={!counting}
            onClick={() => acts.cell("free")}
            className={clsx(BIG, "col-span-3 min-h-28 text-2xl desk:min-h-36")}>
            free<span className="mt-1 hidden font-sans text-base font-normal desk:block">space</span>
          </button>
          <button
            type="button"
            data-big
            data-keys="through"
            disabled={!counting}
            onClick={() => acts.cell("infested")}
            className={clsx(BIG, "col-span-3 min-h-28 text-2xl desk:min-h-36")}>
            infested<span className="mt-1 hidden font-sans text-base font-normal desk:block">i</span>
          </button>
        </>
      ) : jar.method === "look" ? (
        <>
          <button
            type="button"
            data-big
            aria-pressed={jar.seen === false}
            disabled={!counting}
            onClick={() => acts.look(false)}
            className={clsx(
              jar.seen === false ? BIG : "figure rounded-[2px] border border-ink bg-sheet",
              "col-span-3 min-h-28 text-2xl",
            )}>
            no mite seen
          </button>
          <button
            type="button"
            data-big
            aria-pressed={jar.seen === true}
            disabled={!counting}
            onClick={() => acts.look(true)}
            className={clsx(
              jar.seen === true ? BIG : "figure rounded-[2px] border border-ink bg-sheet",
              "col-span-3 min-h-28 text-2xl",
            )}>
            mites seen
          </button>
        </>
      ) : (
        <button
          type="button"
          data-big
          data-keys="through"
          disabled={!counting || read}
          onClick={acts.mite}
          className={clsx(BIG, "col-span-6 min-h-28 text-3xl desk:min-h-40")}>
          + mite
          <span className="mt-1 hidden font-sans text-base font-normal desk:block">press space, or tap</span>
        </button>
      )}
      <Button
        data-keys="through"
        className={clsx("min-h-16 leading-tight", part || jar.method === "drone_brood" ? "col-span-2" : "col-span-3")}
        onClick={acts.back}
        disabled={!counting || read || !begun(jar) || jar.method === "look"}>
        Undo mite
      </Button>
      {part && (
        <Button
          data-keys="through"
          className="col-span-2 min-h-16 leading-tight"
          onClick={acts.part}
          disabled={!counting || read || full}>
          {part}
        </Button>
      )}
      {jar.method === "drone_brood" && (
        <Button
          data-keys="through"
          className="col-span-2 min-h-16 leading-tight"
          onClick={() => acts.cell("another")}
          disabled={!counting || jar.infested === 0}>
          one more in it
        </Button>
      )}
      <Button
        className={clsx("min-h-16 leading-tight", part || jar.method === "drone_brood" ? "col-span-2" : "col-span-3")}
        onClick={acts.next}
        disabled={last}>
        next colony
      </Button>
      <Button variant="main" className="col-span-6 min-h-16" onClick={acts.record} disabled={!counting || nothing}>
        {state.state === "sending" ? "Recording …" : RECORD[jar.method]}
      </Button>
    </div>
  );
}

const RECORD: Record<Jar["method"], string> = {
  wash: "Record the wash",
  sugar: "Record the roll",
  co2: "Record the roll",
  board: "Record the board",
  board_after_treatment: "Record the board",
  drone_brood: "Record the drone brood",
  look: "Record the look",
};

/** The keys of a method of counting, as they stand along the foot. */
export function keysOf(jar: Jar): [string, string][] {
  if (jar.pictureOpen)
    return [
      ["a", "mite"],
      ["x", "none"],
      ["j k", "next, before"],
      ["Return", "square done"],
      ["← →", "jar"],
    ];
  const own: [string, string][] =
    jar.method === "drone_brood"
      ? [
          ["Space", "free cell"],
          ["i", "infested"],
          ["m", "one more mite"],
        ]
      : jar.method === "look"
        ? []
        : onBoard(jar.method)
          ? [["Space", "mite"], ...(jar.squaresInAll > 1 ? [["s", "next square"] as [string, string]] : [])]
          : jar.method === "wash"
            ? [
                ["Space", "mite"],
                ["s", "shake again"],
              ]
            : [
                ["Space", "mite"],
                ["t", "timer"],
              ];
  return [...own, ["Backspace", "undo mite"], ["r", "record"], ["← →", "jar"], ["b", "method and sample"]];
}
