/** What comes of a colony if things go on as planned, in a line; the forecast itself is a page of its own. */
import { useQuery } from "@tanstack/react-query";
import { forecastQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { rate } from "@/ui/units";

export function Ahead({ view }: { view: Schemas["ColonyView"] }) {
  const forecast = useQuery(forecastQuery(view.colony.id));
  const last = forecast.data?.views[0]?.days.at(-1);
  return (
    <section aria-labelledby="ahead">
      <h2 id="ahead" className="border-b border-line pb-1 text-lg">
        Ahead
      </h2>
      {forecast.isPending && <p className="mt-1 text-ink-2">Looking ahead …</p>}
      {last && (
        <p className="mt-1">
          As planned, on {shortDay(last.date, view.today)} <strong>{rate(last.median)}</strong> per 100 bees, in 8 of 10
          cases {rate(last.low80)} to {rate(last.high80)}.
        </p>
      )}
      <TextLink
        to="/colonies/$id/forecast"
        params={{ id: view.colony.id }}
        search={{}}
        className="inline-flex min-h-14 items-center desk:min-h-8">
        Forecast, and what each treatment would do
      </TextLink>
    </section>
  );
}
