/** How strong a recipe is that somebody was given. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "@/client/api";
import { Problem } from "@/client/types";
import { NumberField } from "@/ui/fields";
import { Notice, SectionHeading } from "@/ui/page";

type Made = { final_ml: number; strength_dihydrate_wv: number; strength_anhydrous_wv: number; caution: string | null };

export function RecipeCheck() {
  const [given, setGiven] = useState({ dihydrate_g: "35", sugar_g: "1000", water_ml: "1000" });
  const body = {
    dihydrate_g: Number(given.dihydrate_g),
    sugar_g: Number(given.sugar_g),
    water_ml: Number(given.water_ml),
  };
  const made = useQuery({
    queryKey: ["recipe", body],
    retry: false,
    queryFn: () => ask(api.POST("/api/v1/calculators/oxalic_from_recipe", { body })) as unknown as Promise<Made>,
  });
  const field = (name: keyof typeof given) => ({
    name,
    value: given[name],
    error: made.error instanceof Problem ? made.error.at(name) : undefined,
    onChange: (value: string) => setGiven((old) => ({ ...old, [name]: value })),
  });
  return (
    <section aria-labelledby="recipe">
      <SectionHeading id="recipe">How strong is this recipe?</SectionHeading>
      <p className="text-ink-2">
        “35 g a litre” is three strengths: made up to a litre, into a litre of ready syrup, or into a kilogram of sugar
        and a litre of water. Say what goes in.
      </p>
      <div className="mt-3 grid grid-cols-3 gap-3">
        <NumberField label="Dihydrate" unit="g" {...field("dihydrate_g")} />
        <NumberField label="Sugar" unit="g" {...field("sugar_g")} />
        <NumberField label="Water" unit="ml" {...field("water_ml")} />
      </div>
      {made.data && !made.error && (
        <div role="status" className="mt-4">
          <p>
            <span className="figure text-3xl">{made.data.strength_dihydrate_wv} %</span> w/v dihydrate ={" "}
            {made.data.strength_anhydrous_wv} % w/v anhydrous, {made.data.final_ml} ml in all.
          </p>
          {made.data.caution && (
            <div className="mt-2">
              <Notice>{made.data.caution}</Notice>
            </div>
          )}
        </div>
      )}
    </section>
  );
}
