/** Pests that wait for another look, across all apiaries; and combs in store by apiary. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { pestsAheadQuery } from "@/client/pest-queries";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, Title } from "@/ui/page";
import { capital } from "@/wording/words";

type Ahead = Schemas["PestsAhead"];

export function Pests() {
  const query = useQuery(pestsAheadQuery);
  return (
    <Page>
      <Title>Pests to look at again</Title>
      <p className="mt-1 max-w-prose text-ink-2">
        What was scored at a colony or at combs in store, until it is looked at again and none is seen.
      </p>
      <Loaded query={query} what="Looking up pests …">
        {(ahead) =>
          ahead.lines.length === 0 ? (
            <div className="mt-6">
              <Empty title="Nothing waits">A pest is checked on the colony's page, under Pests.</Empty>
            </div>
          ) : (
            <ul className="mt-5 border-t border-line">
              {ahead.lines.map((line) => (
                <Line key={line.id} line={line} ahead={ahead} />
              ))}
            </ul>
          )
        }
      </Loaded>
    </Page>
  );
}

function Line({ line, ahead }: { line: Ahead["lines"][number]; ahead: Ahead }) {
  const late = line.look_by < ahead.today;
  return (
    <li className="grid gap-x-6 border-b border-line py-2 desk:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)_14rem]">
      {line.colony_id ? (
        <TextLink
          to="/colonies/$id"
          params={{ id: line.colony_id }}
          search={{ part: "pests" }}
          className="text-lg font-semibold">
          {line.label}, {line.apiary}
        </TextLink>
      ) : (
        <TextLink to="/stored-combs/$id" params={{ id: line.apiary_id }} className="text-lg font-semibold">
          Combs in store, {line.apiary}
        </TextLink>
      )}
      <span>
        {capital(ahead.names[line.pest] ?? line.pest)}, score {line.score} on {shortDay(line.seen_on, ahead.today)}
        {line.done && <span className="block text-ink-2">Done: {line.done}</span>}
      </span>
      <span className={clsx(late && "font-semibold text-act")}>
        {late ? "was due" : "look again by"} {shortDay(line.look_by, ahead.today)}
      </span>
    </li>
  );
}
