/** A slot without a frame: what may hang there, new or from the store of the apiary. */
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/client/types";
import { frameStoreQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import type { View } from "./visit-queue";

export type NewKind = "comb" | "foundation" | "drone_comb" | "feeder" | "dummy";
const NEW: readonly (readonly [NewKind, string])[] = [
  ["foundation", "Foundation"],
  ["comb", "Drawn comb"],
  ["drone_comb", "Drone comb"],
  ["feeder", "Frame feeder"],
  ["dummy", "Dummy board"],
];
const KIND: Record<Schemas["Frame"]["kind"], string> = {
  comb: "comb",
  foundation: "foundation",
  drone_comb: "drone comb",
  feeder: "feeder",
  dummy: "dummy board",
};

export function EmptySlot({
  view,
  format,
  disabled,
  error,
  onBring,
  onHang,
}: {
  view: View;
  format: string | null;
  disabled: boolean;
  error: Error | null;
  onBring: (kind: NewKind) => void;
  onHang: (frameId: string, name: string) => void;
}) {
  const store = useQuery(frameStoreQuery(view.place.apiary_id));
  const fitting = (store.data ?? []).filter((one) => one.frame_format === format);
  return (
    <div>
      <p className="text-ink-2">No frame hangs here. Bring one:</p>
      <div className="mt-2 grid grid-cols-2 gap-2">
        {NEW.map(([kind, says]) => (
          <Button key={kind} big disabled={disabled} onClick={() => onBring(kind)}>
            {says}
          </Button>
        ))}
      </div>
      {fitting.length > 0 && (
        <>
          <h3 className="mt-4 text-lg">From the store of {view.place.apiary}</h3>
          <ul className="mt-1 max-h-72 space-y-1 overflow-y-auto">
            {fitting.slice(0, 20).map((one) => {
              const name =
                `${KIND[one.kind] ?? one.kind}${one.comb_year ? ` of ${one.comb_year}` : ""}, in ` +
                `${one.away === "freezer" ? "the freezer" : "store"}`;
              return (
                <li key={one.id}>
                  <Button className="w-full justify-start" disabled={disabled} onClick={() => onHang(one.id, name)}>
                    {name}
                  </Button>
                </li>
              );
            })}
          </ul>
        </>
      )}
      {error && (
        <p role="alert" className="mt-2 font-semibold text-act">
          {error.message}
        </p>
      )}
    </div>
  );
}
