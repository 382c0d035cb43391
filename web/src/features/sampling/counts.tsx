/** Counts: the bench, what is due to be counted, boards to read, count weeks. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { countWeeksQuery, workQuery } from "@/client/queries";
import { countGroups } from "@/features/planning/lines";
import { WorkList } from "@/features/planning/work-list";
import { shortDay } from "@/ui/dates";
import { Button } from "@/ui/button";
import { KeyBar } from "@/ui/key-bar";
import { LinkButton, TextLink } from "@/ui/link";
import { LIST_KEYS } from "@/ui/list-cursor";
import { Loaded } from "@/ui/loaded";
import { Page, SectionHeading, Title } from "@/ui/page";

export function Counts() {
  const [most, setMost] = useState(60);
  const query = useQuery(workQuery("counts", most));
  return (
    <Loaded query={query} what="Looking up what is to be counted …">
      {(work) => {
        const groups = countGroups(work);
        return (
          <>
            <Page>
              <div className="flex flex-wrap items-end justify-between gap-4">
                <Title>Counts</Title>
                <LinkButton to="/bench" search={{}} variant="main">
                  Go to the count bench
                </LinkButton>
              </div>
              {groups.every((group) => group.lines.length === 0) && (
                <p className="mt-6 text-ink-2">Every colony is known, and no board waits to be read.</p>
              )}
              <WorkList groups={groups} />
              {work.more && (
                <Button className="mt-4" onClick={() => setMost(most + 120)}>
                  Show more
                </Button>
              )}
              <CountWeekList />
            </Page>
            <KeyBar keys={[...LIST_KEYS, ["?", "all keys"]]} />
          </>
        );
      }}
    </Loaded>
  );
}

function CountWeekList() {
  const weeks = useQuery(countWeeksQuery);
  return (
    <section className="mt-7" aria-labelledby="count-weeks">
      <SectionHeading id="count-weeks" says="everybody counts in the same days">
        Count weeks
      </SectionHeading>
      <ul>
        {(weeks.data ?? []).slice(0, 4).map((week) => (
          <li key={week.id} className="flex flex-wrap items-center justify-between gap-x-6 border-b border-line py-2">
            <TextLink to="/count-weeks/$id" params={{ id: week.id }} search={{}} className="font-semibold">
              {week.name}
            </TextLink>
            <span className="text-ink-2">
              {shortDay(week.first_on)} to {shortDay(week.last_on)} {week.last_on.slice(0, 4)}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2">
        <TextLink to="/count-weeks">All count weeks</TextLink>
      </p>
    </section>
  );
}
