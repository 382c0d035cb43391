/** The mixing bench: oxalic solution, what a recipe makes, syrup. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { treatmentRoundQuery } from "@/client/queries";
import { ApiaryField } from "@/features/places/apiary-field";
import { TreatmentDoors } from "@/features/treatments/doors";
import { Notice, Page, Title } from "@/ui/page";
import { OxalicBatch } from "./oxalic-batch";
import { RecipeCheck } from "./recipe-check";
import { SyrupMix } from "./syrup-mix";

export function Mixing() {
  const { apiary } = useSearch({ from: "/in/mixing" });
  const navigate = useNavigate({ from: "/mixing" });
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
      <ApiaryField
        label="For the colonies to be trickled today at"
        none="no apiary: say how much"
        value={apiary}
        onChange={(next) => void navigate({ search: { apiary: next }, replace: true })}
      />
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
