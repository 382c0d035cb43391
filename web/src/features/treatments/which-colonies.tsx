/** Before a treatment is chosen: for which colonies of the apiary. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { apiaryQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { shortDay } from "@/ui/dates";
import { LevelWord } from "@/ui/level";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, Title } from "@/ui/page";
import { rate } from "@/ui/units";
import { PER, colonies } from "@/wording/words";

type View = Schemas["ApiaryView"];

export function WhichColonies({ apiary }: { apiary: string }) {
  const query = useQuery(apiaryQuery(apiary));
  return (
    <Loaded query={query} what="Fetching the colonies …">
      {(view) => <Choice view={view} />}
    </Loaded>
  );
}

function Choice({ view }: { view: View }) {
  const navigate = useNavigate({ from: "/treat" });
  const living = view.colonies.filter((one) => one.is_living);
  const [chosen, setChosen] = useState<string[]>([]);
  const toggle = (id: string) =>
    setChosen((old) => (old.includes(id) ? old.filter((one) => one !== id) : [...old, id]));
  const all = chosen.length === living.length;
  // In the order of the apiary, whatever the order of the taps: the address is the same for the same choice.
  const wanted = living.filter((one) => chosen.includes(one.id)).map((one) => one.id);
  return (
    <Page>
      <Breadcrumbs path={[{ name: view.apiary.name, to: "/apiaries/$id", params: { id: view.apiary.id } }]} />
      <Title>Choose a treatment</Title>
      {living.length === 0 ? (
        <div className="mt-6">
          <Empty title="No living colony here">
            <TextLink to="/apiaries">Go to the apiaries</TextLink>
          </Empty>
        </div>
      ) : (
        <>
          <p className="mt-1 text-ink-2">Which colonies are to be treated?</p>
          <ul className="mt-4 max-w-2xl border-t border-line">
            {living.map((one) => (
              <li key={one.id} className="flex min-h-14 items-center justify-between gap-3 border-b border-line">
                <Checkbox label={one.label} checked={chosen.includes(one.id)} onChange={() => toggle(one.id)} />
                <Known colony={one} view={view} />
              </li>
            ))}
          </ul>
          <div className="mt-4 flex flex-wrap gap-2">
            <Button
              variant="main"
              disabled={wanted.length === 0}
              onClick={() => void navigate({ search: (old) => ({ ...old, colonies: wanted }) })}>
              {wanted.length === 0 ? "Select colonies" : `Weigh the options for ${colonies(wanted.length)}`}
            </Button>
            <Button onClick={() => setChosen(all ? [] : living.map((one) => one.id))}>
              {all ? "Select none" : "Select all"}
            </Button>
          </div>
        </>
      )}
    </Page>
  );
}

function Known({ colony, view }: { colony: Schemas["ColonyOverview"]; view: View }) {
  return (
    <span className="text-right">
      <LevelWord level={colony.level} />
      <span className="block text-sm text-ink-2">
        {colony.median === null
          ? "no rate known"
          : `${rate(colony.median)} ${PER[view.axis]}` +
            (colony.counted_on ? `, ${shortDay(colony.counted_on, view.today)}` : "")}
      </span>
    </span>
  );
}
