/** A colony: its figure and the next act, its season large, its record in parts, what comes. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { colonyQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { StandstillBanner } from "@/features/cases/standstill-banner";
import { useMay } from "@/features/session/use-session";
import { LostColony } from "@/features/deadouts/lost-colony";
import { useOpenVisit } from "@/features/visits/use-open-visit";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { ErrorText } from "@/ui/field";
import { KeyBar } from "@/ui/key-bar";
import { useKeys } from "@/ui/keys";
import { Loaded } from "@/ui/loaded";
import { Page } from "@/ui/page";
import { useDesk } from "@/ui/use-desk";
import { Ahead } from "./ahead";
import { AmendCount } from "./amend-count";
import { BroodCalendar } from "./brood-calendar";
import { ColonyHead } from "./colony-head";
import { ColonyForms, type ColonyForm } from "./colony-forms";
import { ColonyParts } from "./colony-parts";
import { ColonyStrip } from "./colony-strip";
import { LevelNow } from "./level-now";

type View = Schemas["ColonyView"];

const KEYS: [string, string][] = [
  ["c", "count"],
  ["o", "treat"],
  ["v", "visit"],
  ["s", "quick visit"],
  ["?", "all keys"],
];

const COLUMNS = "desk:grid-cols-[minmax(0,1fr)_24rem]";

export function Colony() {
  const { id } = useParams({ from: "/in/colonies/$id" });
  const query = useQuery(colonyQuery(id));
  return (
    <Loaded query={query} what="Opening the colony's record …">
      {(view) => <ColonySheet view={view} />}
    </Loaded>
  );
}

function ColonySheet({ view }: { view: View }) {
  const [form, setForm] = useState<ColonyForm | null>(null);
  const [amending, setAmending] = useState<Schemas["Count"] | null>(null);
  const mayRecord = useMay("record");
  const changes = view.colony.is_living && mayRecord ? setForm : null;
  const desk = useDesk();
  const isLost = view.colony.state === "dead" || view.colony.state === "gone";
  const acts = isLost ? <LostColony colony={view.colony} /> : changes && <Acts view={view} open={changes} />;
  return (
    <>
      <Page>
        <Breadcrumbs
          path={[
            { name: "Apiaries", to: "/apiaries" },
            { name: view.apiary.name, to: "/apiaries/$id", params: { id: view.apiary.id } },
          ]}
        />
        <StandstillBanner apiaryId={view.apiary.id} colonyId={view.colony.id} />
        <ColonyHead view={view} />
        {!desk && <div className="mt-4">{acts}</div>}
        <ColonyStrip view={view} />
        {view.brood && <BroodCalendar brood={view.brood} today={view.today} mayWithdraw={changes !== null} />}
        <div className={clsx("mt-5 grid grid-cols-[minmax(0,1fr)] items-start gap-x-10 gap-y-8", COLUMNS)}>
          <ColonyParts view={view} onAmend={mayRecord ? setAmending : null} changes={changes} />
          <div className="space-y-6">
            {desk && acts}
            {view.colony.is_living && <Ahead view={view} />}
            <LevelNow view={view} />
          </div>
        </div>
        {amending && <AmendCount count={amending} today={view.today} onClose={() => setAmending(null)} />}
        <ColonyForms form={form} onClose={() => setForm(null)} view={view} />
      </Page>
      <KeyBar keys={KEYS} />
    </>
  );
}

/** What can be done with a living colony, by buttons and by keys. */
function Acts({ view, open }: { view: View; open: (form: ColonyForm) => void }) {
  const navigate = useNavigate();
  const opening = useOpenVisit();
  const { id, apiary_id: apiary } = view.colony;
  const count = () => void navigate({ to: "/bench", search: { apiary, colonies: [id] } });
  const treat = () => void navigate({ to: "/treat", search: { apiary, colonies: [id] } });
  const visit = () => opening.mutate({ colonyId: id });
  const quick = () => opening.mutate({ colonyId: id, quick: true });
  useKeys([
    { key: "c", says: "count", run: count },
    { key: "o", says: "choose a treatment", run: treat },
    { key: "v", says: "record a visit", run: visit },
    { key: "s", says: "a quick visit: six facts", run: quick },
  ]);
  return (
    <div className="flex flex-wrap content-start gap-2">
      <Button variant="main" onClick={count}>
        Count
      </Button>
      <Button onClick={treat}>Choose a treatment</Button>
      <Button onClick={visit} disabled={opening.isPending}>
        {view.draft ? "Go on with the visit" : "Start a visit"}
      </Button>
      {!view.draft && (
        <Button onClick={quick} disabled={opening.isPending}>
          Quick visit
        </Button>
      )}
      {!view.draft && (
        <Button variant="quiet" onClick={() => open("earlier")}>
          Add a past visit
        </Button>
      )}
      <Button variant="quiet" onClick={() => open("dead")}>
        Found dead
      </Button>
      <Button variant="quiet" onClick={() => open("hold")}>
        {view.hold ? "On hold" : "Hold"}
      </Button>
      <ErrorText error={opening.error} />
    </div>
  );
}
