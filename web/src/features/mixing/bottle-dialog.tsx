/** Mixing a solution from the crystals in stock: what to weigh out, and the bottle that it makes. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "@/client/api";
import { mixSolution } from "@/client/commands/stock";
import { Problem, type Schemas } from "@/client/types";
import { useDone } from "@/features/colonies/use-done";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { Dialog } from "@/ui/dialog";
import { NumberField } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { oneDecimal, quantity } from "@/ui/units";

export type Basis = Schemas["MixingInput"]["basis"];
/** What was worked out before: how much, how strong. */
export type Wanted = { target: string; strength: string; basis: Basis };
type Props = {
  view: Schemas["LotView"];
  today: string;
  wanted?: Wanted;
  onClose: () => void;
  onMade: (lot: string) => void;
};
type Solution = Record<"dihydrate_g" | "sugar_g" | "water_ml" | "final_ml", number> & { caution: string | null };
export const BASES: readonly (readonly [Basis, string])[] = [
  ["dihydrate_wv", "% dihydrate w/v"],
  ["anhydrous_wv", "% anhydrous w/v"],
];

const USUAL: Wanted = { target: "500", strength: "4.5", basis: "dihydrate_wv" };

export function BottleDialog({ view, today, wanted = USUAL, onClose, onMade }: Props) {
  const [id] = useState(() => crypto.randomUUID());
  const done = useDone(() => {
    onClose();
    onMade(id);
  });
  const [draft, set, kept] = useDraft(
    { ...wanted, mixed_on: today },
    `mixing:${view.lot.id}:${wanted.target}:${wanted.strength}`,
  );
  const body = {
    target_ml: Number(draft.target),
    strength: Number(draft.strength),
    basis: draft.basis,
    sugar_per_water: 1,
  };
  const recipe = useQuery({
    queryKey: ["solution", body],
    retry: false,
    queryFn: () => ask(api.POST("/api/v1/calculators/oxalic_solution", { body })) as unknown as Promise<Solution>,
  });
  const save = useSave({ kept, act: () => mixSolution(view.lot.id, { ...body, id, mixed_on: draft.mixed_on }), done });
  const at = (name: string) => save.at(name) ?? (recipe.error instanceof Problem ? recipe.error.at(name) : undefined);
  const field = bindFields(draft, set, { at });
  const made = recipe.error ? undefined : recipe.data;
  return (
    <Dialog open onClose={onClose} title="Mix a solution">
      <SaveForm
        save={save}
        kept={kept}
        fields={["target_ml", "strength", "mixed_on", "lot_id"]}
        disabled={!made}
        label="It is mixed: add the bottle">
        <Notice tone="act">
          In many countries only an authorised oxalic product may be used, at its own strength. Ask your authority. Acid
          into water, never water into acid. Gloves, goggles, outdoors.
        </Notice>
        <NumberField label="How much to make" unit="ml" {...field("target", "target_ml")} />
        <ChoiceField
          label="Basis of the strength"
          value={draft.basis}
          options={BASES}
          onChange={(basis) => set({ basis, strength: basis === "dihydrate_wv" ? "4.5" : "3.2" })}
        />
        <NumberField label="Strength" unit="%" {...field("strength")} />
        <DateField label="Mixed on" max={today} {...field("mixed_on")} />
        {made && (
          <div role="status">
            <p className="text-lg">
              Weigh out <strong className="figure">{oneDecimal(made.dihydrate_g)} g</strong> of crystals and{" "}
              <strong className="figure">{oneDecimal(made.sugar_g)} g</strong> of sugar into{" "}
              <strong className="figure">{oneDecimal(made.water_ml)} ml</strong> of water.
            </p>
            <p className="text-ink-2">
              {quantity(view.left, view.lot.unit)} are in stock. The bottle is used within a week.
              {made.caution && ` ${made.caution}.`}
            </p>
          </div>
        )}
        {save.at("lot_id") && (
          <p role="alert" className="font-semibold text-act">
            {save.at("lot_id")}
          </p>
        )}
      </SaveForm>
    </Dialog>
  );
}
