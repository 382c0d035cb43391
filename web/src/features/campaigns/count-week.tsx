/** A count week: its days and acts, and what it says to whoever asks. */
import { remindKeepers } from "@/client/commands/campaigns";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { countWeekQuery } from "@/client/queries";
import { useMay } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { shortDay } from "@/ui/dates";
import { Button, buttonClass } from "@/ui/button";
import { ErrorPage, Loading, Page, Title } from "@/ui/page";
import { METHOD } from "@/wording/words";
import { BringCounts } from "./import-counts";
import { WeekForm } from "./week-form";
import { WeekOwn } from "./week-own";
import { WeekTogether } from "./week-together";

type View = Schemas["CountWeekView"];

export function CountWeek() {
  const { id } = useParams({ from: "/in/count-weeks/$id" });
  const query = useQuery(countWeekQuery(id));
  if (query.isPending) return <Loading what="Adding up the week …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return <WeekSheet view={query.data} />;
}

function WeekSheet({ view }: { view: View }) {
  const { week, results } = view;
  const may = useMay("organise");
  const client = useQueryClient();
  const [form, setForm] = useState<"change" | "import" | null>(null);
  const open = week.first_on <= view.today && view.today <= week.last_on;
  const remind = useMutation({
    mutationFn: () => remindKeepers(week.id),
    onSuccess: () => window.setTimeout(() => void client.invalidateQueries({ queryKey: ["count-weeks"] }), 2500),
  });
  const file = (name: string) => `/api/v1/count-weeks/${week.id}/${name}`;
  return (
    <Page>
      <Breadcrumbs
        path={[
          { to: "/counts", name: "Counts" },
          { to: "/count-weeks", name: "Count weeks" },
        ]}
      />
      <div className="mt-1 flex flex-wrap items-start justify-between gap-x-8 gap-y-3">
        <div className="min-w-0">
          <Title>{week.name}</Title>
          <p className="mt-1 text-ink-2">
            {`${shortDay(week.first_on)} to ${shortDay(week.last_on)} ${week.last_on.slice(0, 4)}, `}
            {`by ${METHOD[week.method]}. `}
            {open ? "It is on now." : view.today > week.last_on ? "It is over." : "It is to come."}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          {may && open && (
            <Link to="/bench" search={{}} className={buttonClass("main")}>
              Count
            </Link>
          )}
          {may && <Button onClick={() => setForm("import")}>Import counts (CSV)</Button>}
          {may && view.today <= week.last_on && (
            <Button disabled={remind.isPending} onClick={() => remind.mutate()}>
              Remind the others
            </Button>
          )}
          {may && (
            <Button variant="quiet" onClick={() => setForm("change")}>
              Change
            </Button>
          )}
        </div>
      </div>
      {remind.data && (
        <p role="status" className="mt-2 font-semibold">
          {remind.data.keepers === 0
            ? "Nobody to write to: all have counted, were reminded today, or have no address here."
            : `Writing to ${remind.data.keepers} ${remind.data.keepers === 1 ? "keeper" : "keepers"}.`}
        </p>
      )}
      {remind.error && (
        <p role="alert" className="mt-2 font-semibold text-act">
          {remind.error.message}
        </p>
      )}
      {week.protocol && <p className="mt-3 max-w-prose text-ink-2">{week.protocol}</p>}
      {results ? <WeekTogether view={view} results={results} /> : <WeekOwn view={view} />}
      {results && (
        <p className="mt-8 flex flex-wrap gap-x-5 gap-y-1">
          <a className="inline-flex min-h-11 items-center underline underline-offset-4" href={file("report.pdf")}>
            One-page report (PDF)
          </a>
          <a className="inline-flex min-h-11 items-center underline underline-offset-4" href={file("counts.csv")}>
            Counts (CSV)
          </a>
          <a className="inline-flex min-h-11 items-center underline underline-offset-4" href={file("cells.geojson")}>
            Map (GeoJSON)
          </a>
          <span className="inline-flex items-center text-sm text-ink-2">
            No file names a keeper, an apiary or its place.
          </span>
        </p>
      )}
      {form === "change" && (
        <WeekForm
          week={week}
          {...(results ? { keepers: results.keepers.map((one) => one.keeper_id) } : {})}
          onClose={() => setForm(null)}
        />
      )}
      {form === "import" && <BringCounts weekId={week.id} onClose={() => setForm(null)} />}
    </Page>
  );
}
