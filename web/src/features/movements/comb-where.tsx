/** Where a comb has been, and what was seen of it: a sick comb keeps its history in whichever hive it hangs. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { combWhereQuery } from "@/client/movement-queries";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Page, SectionHeading, Title } from "@/ui/page";
import { useFrameName } from "@/features/colonies/boxes";

type Where = Schemas["CombWhere"];
const AWAY: Record<string, string> = {
  store: "in store",
  freezer: "in the freezer",
  melted: "melted",
  burned: "burned",
};

export function CombWhere() {
  const { id } = useParams({ from: "/in/combs/$id" });
  const query = useQuery(combWhereQuery(id));
  const frameName = useFrameName();
  return (
    <Page>
      <Loaded query={query} what="Looking up where it has been …">
        {({ comb, moves, looks, today }) => (
          <>
            <Title>A comb and where it has been</Title>
            <p className="mt-2">
              {frameName(comb.frame_format)}
              {comb.comb_year ? `, comb of ${comb.comb_year}` : ""};{" "}
              {comb.colony_id ? (
                <>
                  in{" "}
                  <TextLink to="/colonies/$id" params={{ id: comb.colony_id }} search={{}}>
                    {comb.label}, {comb.apiary}
                  </TextLink>
                  {comb.slot !== null && `, place ${comb.slot}`}
                </>
              ) : (
                `${AWAY[comb.away ?? ""] ?? comb.away ?? "in a hive without a colony"}, ${comb.apiary}`
              )}
              .
            </p>
            <div className="mt-6 grid gap-x-10 gap-y-6 desk:grid-cols-2">
              <Moves moves={moves} today={today} />
              <Looks looks={looks} today={today} />
            </div>
          </>
        )}
      </Loaded>
    </Page>
  );
}

function Moves({ moves, today }: { moves: Where["moves"]; today: string }) {
  return (
    <section aria-labelledby="moves">
      <SectionHeading id="moves">It was moved</SectionHeading>
      {moves.length === 0 ? (
        <p className="mt-2 text-ink-2">No move is on record.</p>
      ) : (
        <ul className="mt-2 border-t border-line">
          {moves.map((move) => (
            <li key={move.id} className="grid gap-x-4 border-b border-line py-2 desk:grid-cols-[7rem_minmax(0,1fr)]">
              <span className="text-ink-2">{shortDay(move.moved_on, today)}</span>
              <span>
                {endSaid(move.from_label, move.from_apiary, move.from_away, move.from_colony)} to{" "}
                {endSaid(move.to_label, move.to_apiary, move.to_away, move.to_colony)}
                {move.note && <span className="block text-ink-2">{move.note}</span>}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function endSaid(label: string | null, apiary: string | null, away: string | null, colony: string | null): string {
  if (label) return `${label}, ${apiary ?? ""}`;
  if (colony) return "a colony of another keeper";
  return away === null ? (apiary ?? "a hive") : (AWAY[away] ?? away);
}

function Looks({ looks, today }: { looks: Where["looks"]; today: string }) {
  return (
    <section aria-labelledby="looks">
      <SectionHeading id="looks">It was looked at</SectionHeading>
      {looks.length === 0 ? (
        <p className="mt-2 text-ink-2">No visit recorded it.</p>
      ) : (
        <ul className="mt-2 border-t border-line">
          {looks.map((look) => (
            <li
              key={look.visit_id}
              className="grid gap-x-4 border-b border-line py-2 desk:grid-cols-[7rem_minmax(0,1fr)]">
              <span className="text-ink-2">{shortDay(look.visited_on, today)}</span>
              <span>
                in {look.label}; brood on {look.brood_tenths} of 20 tenths
                {look.signs.length > 0 && (
                  <span className="block font-semibold">{look.signs.map(signSaid).join("; ")}</span>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function signSaid({ name, seen }: Schemas["CombSign"]): string {
  if (seen.extent) return `${name}, ${seen.extent}`;
  return seen.number === null || seen.number === undefined ? name : `${name}, ${seen.number}`;
}
