/**
 * Today: what is due, overdue, waiting for the weather or for its check count. Each line says why and opens the act.
 */
import { useQuery } from "@tanstack/react-query";
import { worklistQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { weekday } from "@/ui/dates";
import { KeyBar } from "@/ui/key-bar";
import { TextLink } from "@/ui/link";
import { LIST_KEYS } from "@/ui/list-cursor";
import { Loaded } from "@/ui/loaded";
import { Empty, Page } from "@/ui/page";
import { PHASE, unitOf } from "@/wording/words";
import { allGroups } from "./lines";
import { WorkList } from "./work-list";

export function Today() {
  const query = useQuery(worklistQuery);
  return (
    <Loaded query={query} what="Looking up what is due …">
      {(work) => <TodaySheet work={work} />}
    </Loaded>
  );
}

function TodaySheet({ work }: { work: Schemas["WorklistView"] }) {
  const groups = allGroups(work);
  const nothing = groups.every((group) => group.lines.length === 0);
  const overdue = work.steps.filter((line) => line.urgency === "overdue").length;
  return (
    <>
      <Page>
        <div className="flex flex-wrap items-end justify-between gap-x-8 gap-y-2">
          <h1 className="text-4xl">{weekday(work.today)}</h1>
          <p className="text-ink-2">
            Season: <strong className="text-ink">{PHASE[work.phase]}</strong>. Act at{" "}
            <strong className="text-ink">
              {work.act_at} {unitOf(work.scheme)}
            </strong>
            .
          </p>
        </div>
        {work.colonies === 0 && (
          <div className="mt-8">
            <Empty title="No colonies yet">
              Add your first apiary and its colonies; what is due for them will stand here every day.{" "}
              <TextLink to="/apiaries">Go to the apiaries</TextLink>
            </Empty>
          </div>
        )}
        {nothing && work.colonies > 0 && (
          <div className="mt-8 border-t border-line pt-8">
            <h2 className="text-2xl">Nothing is due.</h2>
            <p className="mt-2 text-ink-2">
              Every colony has been counted, and no course waits for a step.{" "}
              <TextLink to="/apiaries">Look over the apiaries.</TextLink>
            </p>
          </div>
        )}
        {overdue > 0 && <p className="sr-only">{overdue} overdue</p>}
        <WorkList groups={groups} />
        {work.more && (
          <p className="mt-4 text-ink-2">More is due than fits here. Work from the top; the rest moves up.</p>
        )}
      </Page>
      <KeyBar keys={[...LIST_KEYS, ["?", "all keys"]]} />
    </>
  );
}
