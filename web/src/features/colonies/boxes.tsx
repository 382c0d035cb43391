/** The boxes of a hive, drawn as they stand: the top box on top, each with its purpose, frame format and frames. */
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/client/types";
import { frameFormatsQuery } from "@/client/queries";
import { Button } from "@/ui/button";

export type Box = Schemas["BoxInput"];
const MOST_BOXES = 24;
export const PURPOSE: Record<Box["purpose"], string> = {
  brood: "brood box",
  super: "super",
  eke: "eke",
  excluder: "excluder",
  feeder: "feeder",
};
const framed = (purpose: Box["purpose"]) => purpose === "brood" || purpose === "super";

/** "deep frame, 448 x 232 mm" */
export function useFrameName(): (format: string | null) => string {
  const formats = useQuery(frameFormatsQuery);
  return (format) => {
    const found = formats.data?.find((one) => one.id === format);
    return found ? `${found.name}, ${found.width_mm} x ${found.height_mm} mm` : "frames";
  };
}

export function Boxes({
  boxes,
  onChange,
  error,
}: {
  boxes: Box[];
  onChange: (boxes: Box[]) => void;
  error?: string | undefined;
}) {
  const formats = useQuery(frameFormatsQuery);
  const set = (at: number, part: Partial<Box>) =>
    onChange(boxes.map((box, index) => (index === at ? { ...box, ...part } : box)));
  const move = (at: number) => {
    const next = [...boxes];
    const [box] = next.splice(at, 1);
    if (box) next.splice(at + 1, 0, box);
    onChange(next);
  };
  const like = [...boxes].reverse().find((box) => framed(box.purpose));
  const become = (at: number, purpose: Box["purpose"]) =>
    set(
      at,
      framed(purpose)
        ? {
            purpose,
            frame_format: boxes[at]?.frame_format ?? like?.frame_format ?? "A_deep",
            frames: boxes[at]?.frames || like?.frames || 10,
          }
        : { id: null, purpose, frame_format: null, frames: 0 },
    );
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Boxes</legend>
      {boxes.length < MOST_BOXES && (
        <Button
          className="w-full"
          onClick={() =>
            onChange([
              ...boxes,
              {
                purpose: boxes.length === 0 ? "brood" : "super",
                frame_format: like?.frame_format ?? "A_deep",
                frames: like?.frames ?? 10,
              },
            ])
          }>
          Put a box on top
        </Button>
      )}
      <ol className="flex flex-col-reverse">
        {boxes.map((box, index) => {
          const name = `box ${index + 1} from the floor`;
          return (
            <li
              key={index}
              className="-mt-px grid grid-cols-[7rem_minmax(0,1fr)_4.500rem] gap-1 border border-ink bg-paper p-2">
              <select
                className="input"
                aria-label={`Purpose of ${name}`}
                value={box.purpose}
                onChange={(event) => become(index, event.target.value as Box["purpose"])}>
                {Object.entries(PURPOSE).map(([purpose, says]) => (
                  <option key={purpose} value={purpose}>
                    {says}
                  </option>
                ))}
              </select>
              {framed(box.purpose) && (
                <select
                  className="input"
                  aria-label={`Frames of ${name}`}
                  value={box.frame_format ?? ""}
                  onChange={(event) =>
                    set(index, { id: null, frame_format: event.target.value as Box["frame_format"] })
                  }>
                  {(formats.data ?? []).map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name}, {one.width_mm} x {one.height_mm} mm
                    </option>
                  ))}
                </select>
              )}
              {framed(box.purpose) && (
                <input
                  type="number"
                  min={1}
                  max={40}
                  className="input"
                  aria-label={`Number of frames of ${name}`}
                  value={box.frames}
                  onChange={(event) => set(index, { id: null, frames: Number(event.target.value) })}
                />
              )}
              <p className="col-span-3 flex justify-end gap-2">
                {index < boxes.length - 1 && (
                  <Button variant="quiet" aria-label={`Move up: ${name}`} onClick={() => move(index)}>
                    Move up
                  </Button>
                )}
                <Button
                  variant="quiet"
                  aria-label={`Take off: ${name}`}
                  onClick={() => onChange(boxes.filter((_, at) => at !== index))}>
                  Take off
                </Button>
              </p>
            </li>
          );
        })}
      </ol>
      <p className="border-t-4 border-ink pt-1 text-sm text-ink-2">{boxes.length === 0 ? "No box yet." : "Floor."}</p>
      {error && (
        <p role="alert" className="mt-1 font-semibold text-act">
          {error}
        </p>
      )}
    </fieldset>
  );
}
