/** Record: the door in the field. First which apiary, then what is done there. */
import { useMutation, useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { inOrder } from "@/features/places/apiary-order";
import { apiariesQuery, worklistQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { LevelMark } from "@/ui/level";
import { LinkButton } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, Title } from "@/ui/page";
import { distanceKm, whereAmI, type Position } from "@/ui/position";
import { colonies } from "@/wording/words";
import { FirstStop } from "@/features/visits/first-stop";
import { allGroups } from "./lines";
import { WorkList } from "./work-list";

export function Record() {
  const query = useQuery(apiariesQuery);
  const { apiary } = useSearch({ from: "/in/record" });
  return (
    <Loaded query={query} what="Fetching the apiaries …">
      {(view) => {
        const chosen = view.apiaries.find((one) => one.id === apiary);
        return <Page>{chosen ? <Acts apiary={chosen} /> : <ChooseApiary view={view} />}</Page>;
      }}
    </Loaded>
  );
}

function Acts({ apiary }: { apiary: Schemas["ApiaryRow"] }) {
  const work = useQuery(worklistQuery);
  return (
    <>
      <Title>{apiary.name}</Title>
      <p className="mt-1 text-ink-2">
        {apiary.keeper}, {colonies(apiary.colonies)}
      </p>
      <div className="mt-5 grid max-w-xl gap-3">
        <LinkButton to="/bench" search={{ apiary: apiary.id, method: "wash" }}>
          Count a wash
        </LinkButton>
        <LinkButton to="/bench" search={{ apiary: apiary.id, method: "board" }}>
          Put in or read a board
        </LinkButton>
        <FirstStop apiaryId={apiary.id} />
        <LinkButton to="/treat" search={{ apiary: apiary.id }}>
          Choose a treatment
        </LinkButton>
        <LinkButton to="/record" search={{}} variant="quiet">
          Another apiary
        </LinkButton>
      </div>
      {work.data && <WorkList oneApiary groups={allGroups(atApiary(work.data, apiary.id))} />}
    </>
  );
}

/** The apiaries to choose from: the nearest first where the person's place is known, else where work is due first. */
function ChooseApiary({ view }: { view: Schemas["PlacesView"] }) {
  const navigate = useNavigate({ from: "/record" });
  const [here, setHere] = useState<Position | null>(null);
  const locate = useMutation({ mutationFn: whereAmI, onSuccess: setHere });
  const sorted =
    here === null
      ? inOrder(view.apiaries, "by", view.work)
      : [...view.apiaries].sort((a, b) => distanceKm(here, a) - distanceKm(here, b));
  if (sorted.length === 0) return <Empty title="No apiaries yet">What is recorded belongs to an apiary.</Empty>;
  return (
    <>
      <Title>Record</Title>
      <p className="mt-1 text-ink-2">{here === null ? "Where work is due comes first." : "The nearest comes first."}</p>
      {here === null && (
        <Button className="mt-3 w-full desk:w-auto" disabled={locate.isPending} onClick={() => locate.mutate()}>
          {locate.isPending ? "Looking for your location …" : "Use my location"}
        </Button>
      )}
      {locate.error && (
        <p role="alert" className="mt-2 font-semibold text-act">
          {locate.error.message}
        </p>
      )}
      <ul className="mt-4 border-t border-line">
        {sorted.map((one) => (
          <li key={one.id} className="border-b border-line">
            <button
              type="button"
              className="flex min-h-16 w-full items-center justify-between gap-3 py-2 text-left hover:bg-sheet"
              onClick={() => void navigate({ search: { apiary: one.id } })}>
              <span>
                <span className="block font-head text-lg font-semibold leading-tight">{one.name}</span>
                <span className="text-sm text-ink-2">
                  {one.keeper}, {colonies(one.colonies)}
                  {here === null ? "" : `, ${distanceKm(here, one).toFixed(1)} km`}
                </span>
              </span>
              {one.worst && <LevelMark level={one.worst} />}
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** The day's work at one apiary. */
function atApiary(work: Schemas["WorklistView"], id: string): Schemas["WorklistView"] {
  const here = <T extends { apiary_id: string }>(lines: T[]) => lines.filter((line) => line.apiary_id === id);
  return {
    ...work,
    steps: here(work.steps),
    over: here(work.over),
    counts: here(work.counts),
    boards: here(work.boards),
    visits: here(work.visits),
  };
}
