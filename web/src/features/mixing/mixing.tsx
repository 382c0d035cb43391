/** The mixing bench: oxalic solution, what a recipe makes, syrup. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { placesQuery, treatmentRoundQuery } from "@/client/queries";
import { TreatmentDoors } from "@/features/treatments/doors";
import { SelectField } from "@/ui/fields";
import { Notice, Page, Title } from "@/ui/page";
import { OxalicBatch } from "./oxalic-batch";
import { RecipeCheck } from "./recipe-check";
import { SyrupMix } from "./syrup-mix";

export function Mixing() {
  const { apiary } = useSearch({ from: "/in/mixing" });
  const navigate = useNavigate({ from: "/mixing" });
  const places = useQuery(placesQuery()).data?.places ?? [];
  const round = useQuery({ ...treatmentRoundQuery(apiary ?? ""), enabled: apiary !== undefined });
  const doses = (apiary !== undefined ? (round.data?.stops ?? []) : []).flatMap((stop) =>
    stop.course.option.mixing === "oxalic_solution" && stop.steps.some((name) => name.startsWith("place_"))
      ? (stop.course.dose_quantity ?? [])
      : [],
  );
  return (
    <Page>
      <TreatmentDoors />
      <Title>Mixing bench</Title>
      <div className="mt-4 max-w-sm">
        <SelectField
          label="For the colonies to be trickled today at"
          name="apiary"
          value={apiary ?? ""}
          options={[
            ["", "no apiary: say how much"] as const,
            ...places.map((one) => [one.id, `${one.name}, ${one.keeper}`] as const),
          ]}
          onChange={(next) => void navigate({ search: { apiary: next || undefined }, replace: true })}
        />
      </div>
      {apiary !== undefined && round.data && doses.length === 0 && (
        <div className="mt-3 max-w-xl">
          <Notice>No colony is to be trickled there today: say how much to make.</Notice>
        </div>
      )}
      <div className="mt-6 grid items-start gap-x-12 gap-y-10 desk:grid-cols-2">
        <OxalicBatch key={apiary} dosesMl={doses} />
        <div className="space-y-10">
          <SyrupMix />
          <RecipeCheck />
        </div>
      </div>
    </Page>
  );
}
