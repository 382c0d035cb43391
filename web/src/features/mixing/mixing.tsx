/** The mixing bench: the doses of the day, oxalic solution, what a recipe makes, syrup. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { treatmentRoundQuery } from "@/client/queries";
import { ApiaryField } from "@/features/places/apiary-field";
import { Doses } from "@/features/treatments/round-take";
import { TreatmentDoors } from "@/features/treatments/doors";
import { TextLink } from "@/ui/link";
import { Notice, Page, SectionHeading, Title } from "@/ui/page";
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
        label="For the colonies to be treated today at"
        none="no apiary: say how much"
        value={apiary}
        onChange={(next) => void navigate({ search: { apiary: next }, replace: true })}
      />
      {apiary !== undefined && round.data && doses.length === 0 && (
        <div className="mt-3 max-w-xl">
          <Notice>No colony is to be trickled there today: say how much to make.</Notice>
        </div>
      )}
      {apiary !== undefined && round.data && round.data.take.doses.length > 0 && (
        <section aria-labelledby="doses" className="mt-5 max-w-xl">
          <SectionHeading id="doses">To take there</SectionHeading>
          <ul>
            <Doses round={round.data} />
          </ul>
          <p className="mt-1 text-sm text-ink-2">
            Check your label.{" "}
            <TextLink to="/treatment-round" search={{ apiary }}>
              Hive by hive
            </TextLink>
          </p>
        </section>
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
