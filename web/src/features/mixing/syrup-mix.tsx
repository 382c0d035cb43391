/** Syrup: by the litres wanted or the sugar at hand, in the units of the person. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "@/client/api";
import { Problem } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { ChoiceField } from "@/ui/choice";
import { NumberField } from "@/ui/fields";
import { SectionHeading } from "@/ui/page";
import { inKilograms, inLitres, litres, litreUnit, weight, weightUnit } from "@/ui/units";

type Made = { sugar_kg: number; water_l: number; litres: number; sugar_pct_ww: number; stored_kg: number };
type Ratio = "1:1" | "2:1";
type By = "litres" | "sugar";

export function SyrupMix() {
  const units = useSession().person;
  const [ratio, setRatio] = useState<Ratio>("2:1");
  const [by, setBy] = useState<By>("litres");
  const [amount, setAmount] = useState("14");
  const typed = amount.trim() === "" ? Number.NaN : Number(amount);
  const body = {
    ratio,
    ...(by === "litres" ? { litres: inLitres(typed, units) } : { sugar_kg: inKilograms(typed, units) }),
  };
  const made = useQuery({
    queryKey: ["syrup", body],
    retry: false,
    enabled: Number.isFinite(typed),
    queryFn: () => ask(api.POST("/api/v1/calculators/syrup", { body })) as unknown as Promise<Made>,
  });
  const fault = made.error instanceof Problem ? (made.error.at("litres") ?? made.error.at("sugar_kg")) : undefined;
  const figures = made.data &&
    !made.error && [
      ["sugar", weight(made.data.sugar_kg, units)],
      ["water", litres(made.data.water_l, units)],
      ["makes", litres(made.data.litres, units)],
      ["stores of it", weight(made.data.stored_kg, units)],
    ];
  return (
    <section aria-labelledby="syrup">
      <SectionHeading id="syrup">Syrup</SectionHeading>
      <div className="space-y-3">
        <ChoiceField
          label="Sugar to water, by mass"
          value={ratio}
          options={[
            ["2:1", "2 to 1, for winter"],
            ["1:1", "1 to 1, to build up"],
          ]}
          onChange={setRatio}
        />
        <ChoiceField
          label="What is known"
          value={by}
          options={[
            ["litres", "how much syrup"],
            ["sugar", "how much sugar"],
          ]}
          onChange={setBy}
        />
        <NumberField
          label={by === "litres" ? "Syrup wanted" : "Sugar at hand"}
          unit={by === "litres" ? litreUnit(units) : weightUnit(units)}
          name="amount"
          error={fault}
          value={amount}
          onChange={setAmount}
        />
      </div>
      {figures && (
        <>
          <dl className="mt-4 grid grid-cols-2 gap-x-4 gap-y-2">
            {figures.map(([label, figure]) => (
              <div key={label} className="border-b border-line pb-1">
                <dt className="text-sm text-ink-2">{label}</dt>
                <dd className="figure text-3xl">{figure}</dd>
              </div>
            ))}
          </dl>
          <p className="mt-2 text-sm text-ink-2">
            {made.data?.sugar_pct_ww} % sugar by mass. White sugar only; no honey of unknown origin. 2 lb to an imperial
            pint is 1.6 to 1, not 2 to 1.
          </p>
        </>
      )}
    </section>
  );
}
