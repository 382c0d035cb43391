/** The autumn of an apiary: treat, feed, weigh, close down; what each colony lacks, its rounds, and what to buy. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { autumnQuery } from "@/client/queries";
import { ApiaryField } from "@/features/places/apiary-field";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { TreatmentDoors } from "@/features/treatments/doors";
import { longDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Notice, Page, SectionHeading, Title } from "@/ui/page";
import { litres, weight } from "@/ui/units";
import { colonies } from "@/wording/words";
import { AllAutumns } from "./all-autumns";
import { AutumnColony } from "./autumn-colony";

export function Autumn() {
  const { apiary } = useSearch({ from: "/in/autumn" });
  const navigate = useNavigate({ from: "/autumn" });
  const query = useQuery({ ...autumnQuery(apiary ?? ""), enabled: apiary !== undefined });
  return (
    <Page>
      <TreatmentDoors />
      <Title>Autumn</Title>
      <p className="mt-1 max-w-3xl text-ink-2">
        Treat, feed, weigh, close down: one plan a colony, from its last stores and what was fed since. Each visit moves
        it.
      </p>
      {apiary === undefined ? (
        <AllAutumns />
      ) : (
        <>
          <ApiaryField
            label="Apiary"
            none="all"
            value={apiary}
            onChange={(next) => void navigate({ search: { apiary: next } })}
          />
          <Loaded query={query} what="Putting the autumn together …">
            {(view) => <Plan view={view} />}
          </Loaded>
        </>
      )}
    </Page>
  );
}

function Plan({ view: { autumn, today } }: { view: Schemas["AutumnView"] }) {
  const { rules } = autumn;
  const late = autumn.colonies.filter((one) => one.programme.word === "too_late");
  const unknown = autumn.colonies.filter((one) => one.programme.word === "not_known");
  return (
    <>
      <Head autumn={autumn} />
      {rules.cold === null && (
        <div className="mt-3">
          <Notice tone="watch">
            When it gets too cold is not set: by when feeding must be over is not known.{" "}
            <TextLink to="/association">Set it in the policy</TextLink>
          </Notice>
        </div>
      )}
      {late.length > 0 && (
        <div className="mt-3">
          <Notice tone="act">
            Too late for syrup: {late.map((one) => one.label).join(", ")}. What can be done instead stands with each.
          </Notice>
        </div>
      )}
      {unknown.length > 0 && (
        <div className="mt-3">
          <Notice>
            Stores not known of {unknown.map((one) => one.label).join(", ")}: judge them at a visit, from the combs, by
            hefting or by weighing.
          </Notice>
        </div>
      )}
      <section aria-labelledby="colonies" className="mt-6">
        <SectionHeading id="colonies">{colonies(autumn.colonies.length)}</SectionHeading>
        <ol>
          {autumn.colonies.map((one) => (
            <AutumnColony key={one.colony_id} of={one} today={today} />
          ))}
        </ol>
      </section>
    </>
  );
}

/** What to buy, and what the apiary aims at. */
function Head({ autumn }: { autumn: Schemas["Autumn"] }) {
  const units = useSession().person;
  const { rules } = autumn;
  return (
    <section aria-label="What to buy" className="mt-5 flex flex-wrap items-end gap-x-10 gap-y-3">
      <p>
        <span className="figure text-4xl">{weight(autumn.sugar_kg, units)}</span> of sugar in{" "}
        {litres(autumn.water_l, units)} of water
        <span className="block text-ink-2">{litres(autumn.syrup_l, units)} of syrup 2:1, still to be fed</span>
      </p>
      <p className="text-ink-2">
        Aim: {weight(rules.target_kg, units)} a colony. Feeder {litres(rules.feeder_l, units)}, taken at{" "}
        {litres(rules.rate_l_day, units)} a day.
        {autumn.finish_by && (
          <span className="block">
            Syrup gone by <strong className="text-ink">{longDay(autumn.finish_by)}</strong>.
          </span>
        )}
      </p>
    </section>
  );
}
