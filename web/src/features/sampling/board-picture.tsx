/**
 * A board counted from its picture: the program marks what may be mites, the person accepts or strikes each, square by
 * square. Nothing counts that nobody looked at.
 */
import { clsx } from "clsx";
import { addBoardPicture } from "@/client/commands/counts";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import type { Schemas } from "@/client/types";
import { Choice } from "@/ui/choice";
import { useKeys } from "@/ui/keys";
import { Button, buttonClass } from "@/ui/button";
import { Key } from "@/ui/key-bar";
import { Stepper } from "@/ui/stepper";
import {
  acceptRest,
  crowded,
  decide,
  enough,
  goTo,
  inHand,
  marksHere,
  newReading,
  square,
  squareDone,
  squares,
  step,
  tap,
  undecided,
  type Reading,
} from "./picture";

const MOST_BYTES = 12_000_000;
const PICK_PX = 22;

/** The way in: a photo or scan, and how wide what it shows is. */
export function TakePicture({ colonyId, onRead }: { colonyId: string; onRead: (reading: Reading) => void }) {
  const [width, setWidth] = useState(200);
  const [grid, setGrid] = useState<"3x2" | "6x4" | "9x6">("6x4");
  const ids = useRef(new WeakMap<File, string>());
  const send = useMutation({
    mutationFn: async (file: File): Promise<Schemas["BoardPicture"]> => {
      if (!["image/jpeg", "image/png"].includes(file.type)) throw new Error("Choose a JPEG or PNG picture.");
      if (file.size > MOST_BYTES) throw new Error("The picture is larger than 12 MB.");
      const id = ids.current.get(file) ?? crypto.randomUUID();
      ids.current.set(file, id);
      const [columns = 6, rows = 4] = grid.split("x").map(Number);
      return addBoardPicture({ colony: colonyId, id, width_mm: width, columns, rows }, file);
    },
    onSuccess: (picture) => onRead(newReading(picture)),
  });
  return (
    <details className="mt-3">
      <summary className="min-h-8 cursor-pointer py-1 font-semibold underline underline-offset-4">
        Count from a picture
      </summary>
      <div className="mt-2 max-w-md space-y-3 border-l border-line pl-4">
        <p className="text-ink-2">
          Square on, in even light, nothing but the board. Spots are marked for you; you accept or strike each.
        </p>
        <Stepper
          label="The picture shows, side to side"
          value={width}
          least={20}
          most={2000}
          step={10}
          start={200}
          shown={(value) => `${value} mm`}
          onChange={(value) => setWidth(value ?? 200)}
        />
        <Choice
          label="Squares"
          value={grid}
          options={[
            ["3x2", "6 squares"],
            ["6x4", "24 squares"],
            ["9x6", "54 squares"],
          ]}
          onChange={setGrid}
        />
        <label
          className={clsx(
            buttonClass("main", true),
            "w-full cursor-pointer focus-within:outline-3 focus-within:outline-course",
          )}>
          {send.isPending ? "Looking for mites …" : "Choose or take the picture"}
          <input
            type="file"
            accept="image/jpeg,image/png"
            className="sr-only"
            disabled={send.isPending}
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) send.mutate(file);
            }}
          />
        </label>
        {send.error && (
          <p role="alert" className="font-semibold text-act">
            {send.error.message}
          </p>
        )}
      </div>
    </details>
  );
}

export function BoardPicture({
  reading,
  onChange,
  onDone,
  onLeave,
}: {
  reading: Reading;
  onChange: (next: (reading: Reading) => Reading) => void;
  onDone: () => void;
  onLeave: () => void;
}) {
  const here = marksHere(reading);
  const left = undecided(reading);
  const kept = here.filter((one) => one.mark.kept === true).length;
  const counted = squares(reading);
  const all = reading.counted.length === reading.order.length;
  useKeys([
    { key: "a", says: "it is a mite", run: () => onChange((old) => decide(old, true)) },
    { key: "x", says: "it is none", run: () => onChange((old) => decide(old, false)) },
    { key: "j", says: "next mark", run: () => onChange((old) => step(old, 1)) },
    { key: "k", says: "mark before", run: () => onChange((old) => step(old, -1)) },
    { key: "Enter", shown: "Return", says: "square done", run: () => onChange(squareDone) },
  ]);
  return (
    <section aria-label="Board from its picture" className="mt-3">
      <div className="flex items-baseline justify-between gap-4">
        <p>
          <strong>Square {square(reading) + 1}</strong>{" "}
          <span className="text-ink-2">
            of {reading.order.length}; {reading.counted.length} counted, {counted.reduce((a, b) => a + b, 0)} mites
          </span>
        </p>
        <button type="button" className="min-h-8 text-sm underline underline-offset-4" onClick={onLeave}>
          Count by eye
        </button>
      </div>
      {crowded(reading) && reading.counted.length === 0 && (
        <p className="mt-1 text-ink-2">
          A crowded board: squares are chosen at random. Three are enough to record, more make it surer.
        </p>
      )}
      <div className="mt-2 grid gap-4 desk:grid-cols-[minmax(0,1fr)_9rem]">
        <Square reading={reading} onTap={(x, y, reach) => onChange((old) => tap(old, x, y, reach))} />
        <Overview reading={reading} onGo={(wanted) => onChange((old) => goTo(old, wanted))} />
      </div>
      <div
        className={clsx(
          "sticky bottom-0 -mx-4 mt-3 grid grid-cols-2 gap-2 border-t border-line bg-paper p-3 desk:static",
          "desk:mx-0 desk:max-w-2xl desk:grid-cols-4 desk:border-0 desk:p-0",
        )}>
        <Button data-keys="through" disabled={here.length === 0} onClick={() => onChange((old) => decide(old, true))}>
          Mite{" "}
          <span className="hidden desk:inline">
            <Key>a</Key>
          </span>
        </Button>
        <Button data-keys="through" disabled={here.length === 0} onClick={() => onChange((old) => decide(old, false))}>
          None{" "}
          <span className="hidden desk:inline">
            <Key>x</Key>
          </span>
        </Button>
        <Button disabled={left === 0} onClick={() => onChange(acceptRest)}>
          Accept the other {left}
        </Button>
        <Button variant="main" disabled={left > 0} onClick={() => onChange(squareDone)}>
          Square done: {kept}
        </Button>
      </div>
      <p className="mt-2 text-sm text-ink-2">
        Tap a spot without a mark to add it. {left > 0 ? `${left} not decided yet.` : "All decided."}
      </p>
      {enough(reading) && (
        <Button variant="main" big className="mt-3 w-full desk:w-auto" onClick={onDone}>
          {all ? "All squares counted: on to the record" : `Take these ${reading.counted.length} squares`}
        </Button>
      )}
    </section>
  );
}

/** The square in hand, enlarged, with its marks: dashed is not decided, a full ring is a mite, a cross is struck. */
function Square({ reading, onTap }: { reading: Reading; onTap: (x: number, y: number, reach: number) => void }) {
  const box = useRef<SVGSVGElement>(null);
  const column = square(reading) % reading.columns;
  const row = Math.floor(square(reading) / reading.columns);
  const wide = reading.width / reading.columns;
  const high = reading.height / reading.rows;
  const view = { x: column * wide, y: row * high, wide, high };
  const margin = Math.min(wide, high) * 0.06;
  const ring = (reading.width / reading.widthMm) * 1.4;
  const current = inHand(reading);
  const at = (event: React.MouseEvent) => {
    const bounds = box.current?.getBoundingClientRect();
    if (!bounds) return;
    const per = (view.wide + 2 * margin) / bounds.width;
    const x = (view.x - margin + (event.clientX - bounds.left) * per) / reading.width;
    const y = (view.y - margin + (event.clientY - bounds.top) * per) / reading.height;
    const inside =
      x >= view.x / reading.width &&
      x < (view.x + wide) / reading.width &&
      y >= view.y / reading.height &&
      y < (view.y + high) / reading.height;
    if (inside) onTap(x, y, Math.max((PICK_PX * per) / reading.width, ring / reading.width));
  };
  const said = marksHere(reading)
    .map(({ mark }, index) => `${index + 1} ${mark.kept === null ? "not decided" : mark.kept ? "a mite" : "struck"}`)
    .join(", ");
  return (
    <svg
      ref={box}
      role="img"
      aria-label={`Square ${square(reading) + 1}: ${said || "nothing marked"}`}
      onClick={at}
      viewBox={`${view.x - margin} ${view.y - margin} ${view.wide + 2 * margin} ${view.high + 2 * margin}`}
      className="block w-full cursor-crosshair touch-manipulation border border-line-2 bg-ink"
      style={{ maxWidth: `calc(52dvh * ${((view.wide + 2 * margin) / (view.high + 2 * margin)).toFixed(3)})` }}>
      <image href={`/api/v1/board-pictures/${reading.id}/image`} width={reading.width} height={reading.height} />
      <rect
        x={view.x}
        y={view.y}
        width={wide}
        height={high}
        fill="none"
        stroke="#fff"
        strokeWidth={ring / 7}
        strokeDasharray={`${ring / 2} ${ring / 2}`}
      />
      {marksHere(reading).map(({ mark, index }) => {
        const x = mark.x * reading.width;
        const y = mark.y * reading.height;
        const thick = ring / (index === current ? 3 : 5.5);
        return (
          <g key={index} stroke={mark.kept === false ? "#52606d" : "#0b4f9e"} fill="none" strokeWidth={thick}>
            {index === current && <circle cx={x} cy={y} r={ring * 1.55} stroke="#fff" strokeWidth={ring / 5} />}
            {mark.kept === false ? (
              <path
                d={`M${x - ring} ${y - ring}l${2 * ring} ${2 * ring}M${x + ring} ${y - ring}l${-2 * ring} ${2 * ring}`}
              />
            ) : (
              <circle
                cx={x}
                cy={y}
                r={ring}
                strokeDasharray={mark.kept === null ? `${ring * 0.55} ${ring * 0.4}` : undefined}
              />
            )}
            {mark.kept === true && !mark.found && (
              <path d={`M${x + ring} ${y - ring}h${ring}m${-ring / 2} ${-ring / 2}v${ring}`} />
            )}
          </g>
        );
      })}
    </svg>
  );
}

function Overview({ reading, onGo }: { reading: Reading; onGo: (square: number) => void }) {
  const counts = new Map(reading.counted.map((one, index) => [one, squares(reading)[index] ?? 0]));
  const cells = Array.from({ length: reading.columns * reading.rows }, (_, index) => index);
  return (
    <div>
      <div
        className="hidden gap-px bg-line desk:grid"
        style={{ gridTemplateColumns: `repeat(${reading.columns}, minmax(0, 1fr))` }}
        role="group"
        aria-label="Squares of the board">
        {cells.map((one) => (
          <button
            key={one}
            type="button"
            data-mark
            aria-label={`Square ${one + 1}${counts.has(one) ? `: ${counts.get(one)} mites` : ""}`}
            aria-current={one === square(reading) ? true : undefined}
            onClick={() => onGo(one)}
            className={clsx(
              "figure h-8 text-sm",
              one === square(reading) ? "bg-ink text-sheet" : counts.has(one) ? "bg-sheet" : "bg-paper text-ink-3",
            )}>
            {counts.get(one) ?? "·"}
          </button>
        ))}
      </div>
      <p className="mt-1 hidden text-sm text-ink-2 desk:block">The board: mites by square</p>
    </div>
  );
}
