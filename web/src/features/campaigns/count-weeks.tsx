/** Count weeks: the list, and opening one. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { countWeeksQuery } from "@/client/queries";
import { useMay } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { Empty, ErrorPage, Loading, Page } from "@/ui/page";
import { shortDay } from "@/ui/dates";
import { METHOD } from "@/wording/words";
import { WeekForm } from "./week-form";

export function CountWeeks() {
  const query = useQuery(countWeeksQuery);
  const may = useMay("organise");
  const [opening, setOpening] = useState(false);
  if (query.isPending) return <Loading what="Looking up the count weeks …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return (
    <Page>
      <Breadcrumbs path={[{ to: "/counts", name: "Counts" }]} />
      <div className="mt-1 flex flex-wrap items-end justify-between gap-4">
        <div>
          <h1 className="text-3xl desk:text-4xl">Count weeks</h1>
          <p className="mt-1 max-w-prose text-ink-2">
            Everybody counts in the same days. The association sees how it stands; nobody sees where anybody's bees are.
          </p>
        </div>
        {may && (
          <Button variant="main" onClick={() => setOpening(true)}>
            Open a count week
          </Button>
        )}
      </div>
      {query.data.length === 0 ? (
        <div className="mt-8">
          <Empty title="No count week yet">
            {may
              ? "Seven to nine days in spring, at midsummer and before winter bees are usual."
              : "When one is opened, it stands here."}
          </Empty>
        </div>
      ) : (
        <ul className="mt-6 border-t border-line">
          {query.data.map((week) => (
            <li key={week.id} className="border-b border-line">
              <Link
                to="/count-weeks/$id"
                params={{ id: week.id }}
                search={{}}
                className="flex min-h-16 flex-wrap items-center justify-between gap-x-6 py-2 hover:bg-sheet">
                <span className="font-head text-lg font-semibold">{week.name}</span>
                <span className="text-ink-2">
                  {shortDay(week.first_on)} to {shortDay(week.last_on)} {week.last_on.slice(0, 4)};{" "}
                  {METHOD[week.method]}, {week.invited} keepers invited
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      {opening && <WeekForm onClose={() => setOpening(false)} />}
    </Page>
  );
}
