/** The examination of a dead colony: a walk while it is open, then what it came to, for good. */
import { useQuery } from "@tanstack/react-query";
import { useParams, useSearch } from "@tanstack/react-router";
import type { DeadOutView } from "@/client/commands/deadouts";
import { deadOutQuery } from "@/client/deadout-queries";
import { StandstillBanner } from "@/features/cases/standstill-banner";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { shortDay } from "@/ui/dates";
import { TextField } from "@/ui/fields";
import { LinkButton, TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Page, Title } from "@/ui/page";
import { Report } from "./report";
import { useDeadOut } from "./use-dead-out";
import { Walk } from "./walk";

export function DeadOut() {
  const { id } = useParams({ from: "/in/deadouts/$id" });
  const query = useQuery(deadOutQuery(id));
  return (
    <Loaded query={query} what="Opening the examination …">
      {(view) => <Sheet key={view.id} view={view} />}
    </Loaded>
  );
}

function Sheet({ view }: { view: DeadOutView }) {
  const state = useDeadOut(view);
  const { step } = useSearch({ from: "/in/deadouts/$id" });
  const amending = !state.draft && step !== undefined;
  return (
    <Page>
      <Breadcrumbs
        path={[
          { name: "Dead colonies", to: "/deadouts" },
          { name: view.place.label, to: "/colonies/$id", params: { id: view.colony_id } },
        ]}
      />
      <StandstillBanner apiaryId={view.place.apiary_id} colonyId={view.colony_id} />
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <Title>{`${view.place.label}, ${view.place.apiary}`}</Title>
          <p className="mt-1 text-ink-2">
            {view.place.keeper}; found {view.colony_state === "gone" ? "gone" : "dead"}{" "}
            {shortDay(view.found_on, view.today)}; examined {shortDay(view.examined_on, view.today)} by {view.by_name}
            {view.state === "closed" && ", closed"}
          </p>
        </div>
        {view.state === "closed" && (
          <LinkButton to="/colonies/$id/combs" params={{ id: view.colony_id }} variant="main">
            Combs and boxes
          </LinkButton>
        )}
      </div>
      {amending && (
        <div className="mt-4 max-w-prose border-l-4 border-watch pl-3">
          <p>
            Closed: an amendment says why, and what it comes to follows.{" "}
            <TextLink to="/deadouts/$id" params={{ id: view.id }} search={{}}>
              Back to what it came to
            </TextLink>
          </p>
          {state.mayRecord && (
            <TextField
              label="Why is it amended?"
              name="reason"
              maxLength={400}
              value={state.reason}
              onChange={state.setReason}
            />
          )}
        </div>
      )}
      {state.draft || amending ? <Walk state={state} /> : <Report view={view} />}
    </Page>
  );
}
