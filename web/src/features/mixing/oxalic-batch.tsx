/** Oxalic solution for the colonies of a day: the batch from their doses, what to weigh out, the bottle it makes. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, ask } from "@/client/api";
import { lotsQuery } from "@/client/queries";
import { Problem } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { ChoiceField } from "@/ui/choice";
import { NumberField } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { oneDecimal, quantity } from "@/ui/units";
import { BASES, BottleDialog, type Wanted } from "./bottle-dialog";

type Solution = {
  dihydrate_g: number;
  sugar_g: number;
  water_ml: number;
  final_ml: number;
  strength_dihydrate_wv: number;
  strength_anhydrous_wv: number;
  caution: string | null;
};
type Batch = { per_colony_ml: number[]; net_ml: number; batch_ml: number };

/** Without doses somebody says how much is to be made. */
export function OxalicBatch({ dosesMl }: { dosesMl: number[] }) {
  const [wanted, setWanted] = useState<Wanted>({ target: "500", strength: "4.5", basis: "dihydrate_wv" });
  const [waste, setWaste] = useState("10");
  const set = (part: Partial<Wanted>) => setWanted((old) => ({ ...old, ...part }));
  const { batch, solution, target } = useBatch(dosesMl, wanted, waste);
  const fault = (field: string) => {
    const error = [batch.error, solution.error].find((one) => one instanceof Problem && one.at(field));
    return error instanceof Problem ? error.at(field) : undefined;
  };
  const forDay = dosesMl.length > 0;
  return (
    <section aria-labelledby="mix" className="border-t-2 border-ink pt-3">
      <h2 id="mix" className="text-xl">
        {forDay ? "Mix for today" : "Oxalic solution"}
      </h2>
      <Notice tone="act">
        In many countries only an authorised oxalic product may be used, at its own strength, and mixing at home is not
        lawful. Ask your authority. Acid into water, never water into acid. Gloves, goggles, outdoors.
      </Notice>
      <div className="mt-3 space-y-3">
        <ChoiceField
          label="Basis of the strength"
          value={wanted.basis}
          options={BASES}
          onChange={(basis) => set({ basis, strength: basis === "dihydrate_wv" ? "4.5" : "3.2" })}
        />
        <div className="grid grid-cols-2 gap-3">
          <NumberField
            label="Strength"
            unit="%"
            name="strength"
            error={fault("strength")}
            value={wanted.strength}
            onChange={(strength) => set({ strength })}
          />
          {forDay ? (
            <NumberField
              label="To spare"
              unit="%"
              name="waste"
              error={fault("waste_pct")}
              value={waste}
              onChange={setWaste}
            />
          ) : (
            <NumberField
              label="How much to make"
              unit="ml"
              name="target_ml"
              error={fault("target_ml")}
              value={wanted.target}
              onChange={(next) => set({ target: next })}
            />
          )}
        </div>
      </div>
      {solution.data && (
        <>
          <WeighOut solution={solution.data} />
          <p className="mt-2 text-sm text-ink-2">
            {solution.data.strength_dihydrate_wv} % w/v dihydrate = {solution.data.strength_anhydrous_wv} % w/v
            anhydrous.{" "}
            {batch.data &&
              forDay &&
              `${oneDecimal(batch.data.net_ml)} ml for ${dosesMl.length} colonies, rounded up to 10 ml. `}
            Shop crystals are dihydrate unless marked otherwise. Discard after 7 days. Check your label.
          </p>
          {solution.data.caution && (
            <div className="mt-2">
              <Notice>{solution.data.caution}</Notice>
            </div>
          )}
          <MadeOf solution={solution.data} wanted={{ ...wanted, target: String(target ?? "") }} />
        </>
      )}
    </section>
  );
}

function useBatch(dosesMl: number[], wanted: Wanted, waste: string) {
  const seams = dosesMl.map((ml) => ml / 5);
  const batch = useQuery({
    queryKey: ["batch", seams, waste],
    retry: false,
    enabled: seams.length > 0,
    queryFn: () =>
      ask(
        api.POST("/api/v1/calculators/oxalic_batch", { body: { seams, waste_pct: Number(waste) } }),
      ) as unknown as Promise<Batch>,
  });
  const target = seams.length > 0 ? batch.data?.batch_ml : Number(wanted.target);
  const body = { target_ml: target ?? 0, strength: Number(wanted.strength), basis: wanted.basis, sugar_per_water: 1 };
  const solution = useQuery({
    queryKey: ["solution", body],
    enabled: target !== undefined,
    retry: false,
    queryFn: () => ask(api.POST("/api/v1/calculators/oxalic_solution", { body })) as unknown as Promise<Solution>,
  });
  return { batch, solution, target };
}

function WeighOut({ solution }: { solution: Solution }) {
  return (
    <dl className="mt-4 grid grid-cols-2 gap-x-4 gap-y-2">
      {(
        [
          ["oxalic acid dihydrate", solution.dihydrate_g, "g"],
          ["sugar", solution.sugar_g, "g"],
          ["water", solution.water_ml, "ml"],
          ["makes", solution.final_ml, "ml"],
        ] as const
      ).map(([label, figure, unit]) => (
        <div key={label} className="border-b border-line pb-1">
          <dt className="text-sm text-ink-2">{label}</dt>
          <dd>
            <span className="figure text-3xl">{oneDecimal(figure)}</span> {unit}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** The crystals in stock that it is made of: the bottle becomes a lot, with a label to print. */
function MadeOf({ solution, wanted }: { solution: Solution; wanted: Wanted }) {
  const mayRecord = useMay("record");
  const navigate = useNavigate();
  const stock = useQuery(lotsQuery);
  const [from, setFrom] = useState<string | null>(null);
  const crystals = (stock.data?.lots ?? []).filter(
    ({ lot, state }) =>
      lot.unit === "g" && lot.option_ids.includes("OX_TRICKLE") && (state === "good" || state === "expires_soon"),
  );
  const chosen = crystals.find((one) => one.lot.id === from);
  if (!mayRecord || !stock.data) return null;
  return (
    <div className="mt-3 space-y-2">
      {crystals.map((one) => (
        <div key={one.lot.id}>
          <Button onClick={() => setFrom(one.lot.id)}>
            Make the bottle from lot {one.lot.lot || "without a number"}
          </Button>
          <p className={one.left < solution.dihydrate_g ? "mt-1 font-semibold text-act" : "mt-1 text-sm text-ink-2"}>
            {one.lot.product}: {quantity(one.left, one.lot.unit)} left
            {one.left < solution.dihydrate_g && `, ${oneDecimal(solution.dihydrate_g)} g are needed`}.
          </p>
        </div>
      ))}
      {crystals.length === 0 && <p className="text-sm text-ink-2">No crystals are in stock.</p>}
      {chosen && (
        <BottleDialog
          view={chosen}
          today={stock.data.today}
          wanted={wanted}
          onClose={() => setFrom(null)}
          onMade={(lot) => void navigate({ to: "/stock", search: { lot } })}
        />
      )}
    </div>
  );
}
