/** Mixing oxalic solution for the day: the batch from the colonies' doses, then what to weigh out. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "@/client/api";
import { Problem } from "@/client/types";
import { Choice } from "@/ui/choice";
import { Field, described } from "@/ui/field";
import { Notice } from "@/ui/page";
import { oneDecimal } from "@/ui/units";

type Basis = "dihydrate_wv" | "anhydrous_wv";
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

export function Mix({ dosesMl }: { dosesMl: number[] }) {
  const [basis, setBasis] = useState<Basis>("dihydrate_wv");
  const [strength, setStrength] = useState("4.5");
  const [waste, setWaste] = useState("10");
  const seams = dosesMl.map((ml) => ml / 5);
  const batch = useQuery({
    queryKey: ["batch", seams, waste],
    retry: false,
    queryFn: () =>
      ask(
        api.POST("/api/v1/calculators/oxalic_batch", { body: { seams, waste_pct: Number(waste) } }),
      ) as unknown as Promise<Batch>,
  });
  const target = batch.data?.batch_ml;
  const solution = useQuery({
    queryKey: ["solution", target, strength, basis],
    enabled: target !== undefined,
    retry: false,
    queryFn: () =>
      ask(
        api.POST("/api/v1/calculators/oxalic_solution", {
          body: { target_ml: target ?? 0, strength: Number(strength), basis, sugar_per_water: 1 },
        }),
      ) as unknown as Promise<Solution>,
  });
  const fault = (field: string) => {
    const error = [batch.error, solution.error].find((one) => one instanceof Problem && one.at(field));
    return error instanceof Problem ? error.at(field) : undefined;
  };
  return (
    <section aria-labelledby="mix" className="border-t-2 border-ink pt-3">
      <h2 id="mix" className="text-xl">
        Mix for today
      </h2>
      <Notice tone="act">
        In many countries only an authorised oxalic product may be used, at its own strength, and mixing at home is not
        lawful. Ask your authority. Acid into water, never water into acid. Gloves, goggles, outdoors.
      </Notice>
      <div className="mt-3 space-y-3">
        <Choice
          label="Basis of the strength"
          value={basis}
          options={[
            ["dihydrate_wv", "% dihydrate w/v"],
            ["anhydrous_wv", "% anhydrous w/v"],
          ]}
          onChange={(next) => {
            setBasis(next);
            setStrength(next === "dihydrate_wv" ? "4.5" : "3.2");
          }}
        />
        <div className="grid grid-cols-2 gap-3">
          <Field label="Strength, %" name="strength" error={fault("strength")}>
            <input
              inputMode="decimal"
              className="input"
              value={strength}
              onChange={(event) => setStrength(event.target.value.replace(",", "."))}
              {...described("strength", fault("strength"))}
            />
          </Field>
          <Field label="To spare, %" name="waste" error={fault("waste_pct")}>
            <input
              inputMode="decimal"
              className="input"
              value={waste}
              onChange={(event) => setWaste(event.target.value.replace(",", "."))}
              {...described("waste", fault("waste_pct"))}
            />
          </Field>
        </div>
      </div>
      {solution.data && batch.data && (
        <>
          <dl className="mt-4 grid grid-cols-2 gap-x-4 gap-y-2">
            {[
              ["oxalic acid dihydrate", solution.data.dihydrate_g, "g"],
              ["sugar", solution.data.sugar_g, "g"],
              ["water", solution.data.water_ml, "ml"],
              ["makes", solution.data.final_ml, "ml"],
            ].map(([label, figure, unit]) => (
              <div key={label} className="border-b border-line pb-1">
                <dt className="text-sm text-ink-2">{label}</dt>
                <dd>
                  <span className="figure text-3xl">{oneDecimal(Number(figure))}</span> {unit}
                </dd>
              </div>
            ))}
          </dl>
          <p className="mt-2 text-sm text-ink-2">
            {solution.data.strength_dihydrate_wv} % w/v dihydrate = {solution.data.strength_anhydrous_wv} % w/v
            anhydrous. {oneDecimal(batch.data.net_ml)} ml for {dosesMl.length} colonies, rounded up to 10 ml. Shop
            crystals are dihydrate unless marked otherwise. Mark the bottle with strength, basis, date and hazard;
            discard after 7 days. Check your label.
          </p>
          {solution.data.caution && (
            <div className="mt-2">
              <Notice>{solution.data.caution}</Notice>
            </div>
          )}
        </>
      )}
    </section>
  );
}
