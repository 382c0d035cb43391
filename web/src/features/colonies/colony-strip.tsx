/** The season of one colony, drawn large, with its forecast ahead. */
import { useQuery } from "@tanstack/react-query";
import { forecastQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { SeasonStrip, StripHead, type Span } from "@/instruments/season-strip";
import { TextLink } from "@/ui/link";
import { useWidth } from "@/ui/use-width";

type View = Schemas["ColonyView"];

/** A course as the strip draws it: the days that it took, and its placings. */
function onStrip(course: Schemas["CourseView"]) {
  const ending = course.steps.find((step) => step.kind === "remove" || step.kind === "end");
  const placed = course.steps.filter((step) => step.kind === "place" && step.act?.outcome === "done");
  return {
    id: course.id,
    short_name: course.option.short_name,
    state: course.state,
    occupies_from: course.placed_on ?? course.start_on,
    occupies_to: course.ended_on ?? ending?.ideal ?? course.start_on,
    honey_clear_on: course.honey_clear_on,
    placings: placed.map((step) => step.act?.done_on ?? ""),
  };
}

export function ColonyStrip({ view }: { view: View }) {
  const { colony } = view;
  const [box, width] = useWidth<HTMLDivElement>(900);
  const forecast = useQuery(forecastQuery(colony.id));
  const span: Span = { first: view.first, last: view.last, today: view.today, width };
  return (
    <section className="mt-6" aria-label="Season">
      <div ref={box}>
        <StripHead span={span} phases={view.phases} />
        <SeasonStrip
          span={span}
          height={190}
          phases={view.phases}
          counts={view.points}
          falls={view.axis === "mites_per_day"}
          courses={view.courses.filter((one) => one.state !== "abandoned").map(onStrip)}
          visits={view.visits.map((one) => one.visited_on)}
          level={colony.level}
          countedOn={colony.counted_on}
          label={`Colony ${colony.label}`}
          scale
          ahead={forecast.data?.views[0]?.days ?? []}
        />
      </div>
      {colony.is_living && (
        <p className="mt-1 text-right">
          <TextLink
            to="/colonies/$id/forecast"
            params={{ id: colony.id }}
            search={{}}
            className="inline-flex min-h-14 items-center desk:min-h-8">
            Forecast, and what each treatment would do
          </TextLink>
        </p>
      )}
    </section>
  );
}
