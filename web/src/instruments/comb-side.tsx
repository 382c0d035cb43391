/** One side of a comb as it is drawn: what covers it, stacked from the top bar down, stores arched over the brood. */
import type { Schemas } from "@/client/types";

export type Side = Schemas["CombSide"];
export type FrameRecord = Schemas["FrameRecord"];

/** What covers a side, from the top bar down: stores arch over the brood. */
export const STACK = ["honey", "nectar", "pollen", "capped", "open", "eggs", "drone"] as const;
export const COVER_FILL: Record<(typeof STACK)[number] | "bees", string> = {
  honey: "var(--honey)",
  nectar: "var(--nectar)",
  pollen: "var(--pollen)",
  capped: "var(--capped)",
  open: "var(--open)",
  eggs: "var(--eggs)",
  drone: "var(--drone)",
  bees: "var(--bees)",
};

/** Tenths of brood on both sides of a frame. */
export function brood(record: FrameRecord | null): number {
  return [record?.a, record?.b].reduce(
    (sum, side) => sum + (side ? side.capped + side.open + side.eggs + side.drone : 0),
    0,
  );
}

export function SideColumn({ side }: { side: Side | null | undefined }) {
  if (!side) return <div className="h-full flex-1" />;
  return (
    <div className="flex h-full flex-1 flex-col">
      {STACK.map(
        (name) =>
          side[name] > 0 && (
            <div key={name} data-cover={name} style={{ height: `${side[name] * 10}%`, background: COVER_FILL[name] }} />
          ),
      )}
      {side.eggs_seen && side.eggs === 0 && (
        <div data-cover="eggs" className="h-[6%]" style={{ background: COVER_FILL.eggs }} />
      )}
    </div>
  );
}
