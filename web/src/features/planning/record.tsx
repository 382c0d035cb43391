/** Record: the door in the field. First which apiary, then what is done there. */
import { useInfiniteQuery, useMutation, useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { apiariesQuery, placesQuery, workAtQuery, worklistQuery } from "@/client/queries";
import type { Level, Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { LevelMark } from "@/ui/level";
import { LinkButton } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { useLongList, useMore } from "@/ui/long-list";
import { Empty, Page, Title } from "@/ui/page";
import { distanceKm, whereAmI, type Position } from "@/ui/position";
import { colonies } from "@/wording/words";
import { FirstStop } from "@/features/visits/first-stop";
import { allGroups } from "./lines";
import { WorkList } from "./work-list";

const EVERY = { find: "", level: undefined };
const ROW_PX = 65;

export function Record() {
  const query = useQuery(placesQuery());
  const { apiary } = useSearch({ from: "/in/record" });
  return (
    <Loaded query={query} what="Fetching the apiaries …">
      {(view) => {
        const chosen = view.places.find((one) => one.id === apiary);
        return <Page>{chosen ? <Acts apiary={chosen} /> : <ChooseApiary places={view.places} />}</Page>;
      }}
    </Loaded>
  );
}

function Acts({ apiary }: { apiary: Schemas["ApiaryPlace"] }) {
  const work = useLinesAt(apiary.id);
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
      {work && <WorkList oneApiary groups={allGroups(work)} />}
    </>
  );
}

/** What is due at an apiary; without signal, as far as Today has it on this device. */
function useLinesAt(id: string) {
  const work = useQuery(workAtQuery(id));
  const today = useInfiniteQuery({ ...worklistQuery, enabled: work.isError });
  const here = <T extends { apiary_id: string }>(lines: T[]) => lines.filter((line) => line.apiary_id === id);
  if (work.data || !today.data) return work.data;
  const { steps, over, counts, boards, visits } = today.data;
  return {
    today: today.data.today,
    steps: here(steps),
    over: here(over),
    counts: here(counts),
    boards: here(boards),
    visits: here(visits),
  };
}

/** The apiaries to choose from: the nearest first where the person's place is known, else where work is due first. */
function ChooseApiary({ places }: { places: Schemas["ApiaryPlace"][] }) {
  const [here, setHere] = useState<Position | null>(null);
  const locate = useMutation({ mutationFn: whereAmI, onSuccess: setHere });
  if (places.length === 0) return <Empty title="No apiaries yet">What is recorded belongs to an apiary.</Empty>;
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
      {here === null ? <InOrderOfWork places={places} /> : <Nearest places={places} here={here} />}
    </>
  );
}

/** Without signal, and where the order was never read on this device: by name. */
function InOrderOfWork({ places }: { places: Schemas["ApiaryPlace"][] }) {
  const query = useInfiniteQuery(apiariesQuery("by", EVERY));
  const more = useMore(query);
  return <Choice places={query.data?.apiaries ?? (query.isError ? places : [])} more={more} />;
}

function Nearest({ places, here }: { places: Schemas["ApiaryPlace"][]; here: Position }) {
  const sorted = [...places].sort((a, b) => distanceKm(here, a) - distanceKm(here, b));
  return <Choice places={sorted} far={(index) => distanceKm(here, sorted[index] ?? here)} />;
}

type Named = { id: string; name: string; keeper: string; colonies: number; worst: Level | null };
type ChoiceProps = { places: Named[]; more?: (() => void) | undefined; far?: (index: number) => number };

function Choice({ places, more, far }: ChoiceProps) {
  const navigate = useNavigate({ from: "/record" });
  const rows = useLongList<HTMLUListElement>({ count: places.length, estimate: ROW_PX, current: -1, more });
  return (
    <ul
      ref={rows.container}
      className="mt-4 border-t border-line"
      style={{ paddingTop: rows.before, paddingBottom: rows.after }}>
      {rows.drawn.map((index) => {
        const one = places[index];
        return (
          one && (
            <li key={one.id} ref={rows.measure} data-index={index} className="border-b border-line">
              <button
                type="button"
                className="flex min-h-16 w-full items-center justify-between gap-3 py-2 text-left hover:bg-sheet"
                onClick={() => void navigate({ search: { apiary: one.id } })}>
                <span>
                  <span className="block font-head text-lg font-semibold leading-tight">{one.name}</span>
                  <span className="text-sm text-ink-2">
                    {one.keeper}, {colonies(one.colonies)}
                    {far && `, ${far(index).toFixed(1)} km`}
                  </span>
                </span>
                {one.worst && <LevelMark level={one.worst} />}
              </button>
            </li>
          )
        );
      })}
    </ul>
  );
}
