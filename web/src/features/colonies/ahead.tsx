/** What is forecast of a colony if nothing more is done, in a line; the forecast itself is a page of its own. */
import { useQuery } from "@tanstack/react-query";
import { forecastQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Term } from "@/features/help/term";
import { useSentence } from "@/features/session/use-sentence";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { rate } from "@/ui/units";
import { capital } from "@/wording/words";

export function Ahead({ view }: { view: Schemas["ColonyView"] }) {
  const forecast = useQuery(forecastQuery(view.colony.id));
  const say = useSentence();
  const alone = forecast.data?.views[0];
  const last = alone?.days.at(-1);
  return (
    <section aria-labelledby="ahead">
      <h2 id="ahead" className="border-b border-line pb-1 text-lg">
        Ahead
      </h2>
      {forecast.isPending && <p className="mt-1 text-ink-2">Looking ahead …</p>}
      {alone && last && (
        <p className="mt-1">
          <strong className="block">{capital(say(alone.turns))}</strong>
          On {shortDay(last.date, view.today)} {rate(last.median)} mites per 100 bees,{" "}
          <Term id="forecast">in 8 of 10 cases</Term> {rate(last.low80)} to {rate(last.high80)}, if nothing more is
          done.
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
