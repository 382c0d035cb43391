/** Choosing a treatment: the day of placing under its forecast, every option with its verdict, one of them in full. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { optionsQuery } from "@/client/queries";
import { useSession } from "@/features/session/use-session";
import { ForecastStrip } from "@/instruments/forecast-strip";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { longDay, shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Empty, Notice, Page, Title } from "@/ui/page";
import { rate } from "@/ui/units";
import { COURSE_STATE, SEASON, colonies } from "@/wording/words";
import { OptionLine } from "./option-line";
import { rowsOf, type OptionRow, type Options } from "./option-rows";
import { OptionSheet } from "./option-sheet";
import { WhichColonies } from "./which-colonies";

export function Treat() {
  const { apiary, colonies: ids, start } = useSearch({ from: "/in/treat" });
  const query = useQuery({
    ...optionsQuery(apiary ?? "", ids ?? [], start),
    enabled: apiary !== undefined && (ids?.length ?? 0) > 0,
    placeholderData: (old) => old,
  });
  if (apiary === undefined) {
    return (
      <Page>
        <Title>Choose a treatment</Title>
        <div className="mt-6">
          <Empty title="At which apiary?">
            A treatment is chosen for colonies of one apiary. <TextLink to="/apiaries">Go to the apiaries</TextLink>
          </Empty>
        </div>
      </Page>
    );
  }
  if (!ids?.length) return <WhichColonies apiary={apiary} />;
  return (
    <Loaded query={query} what="Weighing the options …">
      {(view) => <TreatSheet view={view} />}
    </Loaded>
  );
}

function TreatSheet({ view }: { view: Options }) {
  const session = useSession();
  const navigate = useNavigate({ from: "/treat" });
  const { option: chosenId } = useSearch({ from: "/in/treat" });
  const rows = rowsOf(view);
  const chosen =
    rows.find((row) => row.option.id === chosenId) ??
    rows.find((row) => row.all.verdict !== "never_here" && !row.all.is_supporting);
  const setStart = (start: string) => void navigate({ search: (old) => ({ ...old, start }), replace: true });
  return (
    <Page>
      <Breadcrumbs path={[{ name: view.apiary.name, to: "/apiaries/$id", params: { id: view.apiary.id } }]} />
      <h1 className="mt-1 text-4xl">Choose a treatment</h1>
      <ForWhom view={view} />
      <InCourseAlready view={view} today={session.today} />
      <section className="mt-4" aria-label="Day of placing">
        <p className="mb-1 text-sm text-ink-2">
          Place the dose on <strong className="text-ink">{longDay(view.start_on)}</strong>; choose another day of the
          forecast, and the options are weighed again.
        </p>
        <ForecastStrip days={view.forecast} chosen={view.start_on} units={session.person} onChoose={setStart} />
      </section>
      <div className="mt-6 grid items-start gap-8 desk:grid-cols-[minmax(0,26rem)_minmax(0,1fr)]">
        <OptionList view={view} rows={rows} chosen={chosen} />
        {chosen && <OptionSheet key={`${chosen.option.id}-${view.start_on}`} row={chosen} view={view} />}
      </div>
    </Page>
  );
}

function ForWhom({ view }: { view: Options }) {
  const rates = view.colonies.flatMap((one) => (one.per_100 === null ? [] : [one.per_100]));
  return (
    <p className="mt-1 text-ink-2">
      {colonies(view.colonies.length)}: {view.colonies.map((one) => one.label).join(", ")}.{" "}
      {rates.length > 0 ? `Highest ${rate(Math.max(...rates))} mites per 100 bees` : "No rate known"}. Season:{" "}
      {SEASON[view.season]}
      {view.winter_bee_date && `; winter bees from ${shortDay(view.winter_bee_date, view.start_on)}`}.
    </p>
  );
}

function InCourseAlready({ view, today }: { view: Options; today: string }) {
  if (view.colonies.every((one) => one.open_courses.length === 0)) return null;
  return (
    <div className="mt-3">
      <Notice tone="course">
        In a course already:{" "}
        {view.colonies.flatMap((colony) =>
          colony.open_courses.map((one) => (
            <span key={one.id} className="mr-3 inline-block">
              {colony.label},{" "}
              <TextLink to="/courses/$id" params={{ id: one.id }}>
                {one.name}
              </TextLink>{" "}
              ({COURSE_STATE[one.state]}, {shortDay(one.start_on, today)})
            </span>
          )),
        )}
      </Notice>
    </div>
  );
}

type ListProps = { view: Options; rows: OptionRow[]; chosen: OptionRow | undefined };

/** The options that suit first; measures that only support, and what does not suit, folded below. */
function OptionList({ view, rows, chosen }: ListProps) {
  const suits = (row: OptionRow) => row.all.verdict !== "never_here";
  const shown = rows.filter((row) => suits(row) && !row.all.is_supporting);
  const supporting = rows.filter((row) => suits(row) && row.all.is_supporting);
  const never = rows.filter((row) => !suits(row));
  return (
    <section aria-label="Options">
      {shown.length === 0 && (
        <p className="text-ink-2">Nothing can be given on this day. The reasons stand with each option below.</p>
      )}
      <div className="border-t-2 border-ink">
        <Lines view={view} rows={shown} chosen={chosen} />
      </div>
      {supporting.length > 0 && (
        <details className="mt-2" open={supporting.some((row) => row === chosen)}>
          <summary className="min-h-9 cursor-pointer py-1 underline underline-offset-4">
            {supporting.length} supporting measures, no answer by themselves
          </summary>
          <Lines view={view} rows={supporting} chosen={chosen} />
        </details>
      )}
      {never.length > 0 && (
        <details className="mt-2" open={never.some((row) => row === chosen)}>
          <summary className="min-h-9 cursor-pointer py-1 underline underline-offset-4">
            {never.length} unsuitable options
          </summary>
          <Lines view={view} rows={never} chosen={chosen} />
        </details>
      )}
      <p className="mt-3 text-sm text-ink-2">
        Ordered by verdict, colonies that may have it, in time for winter bees, expected kill, risk to the queen,
        visits. Every value is a default: check your label. Label, law and your vet come first.
      </p>
    </section>
  );
}

function Lines({ view, rows, chosen }: ListProps) {
  const navigate = useNavigate({ from: "/treat" });
  const choose = async (option: string) => {
    await navigate({ search: (old) => ({ ...old, option }), replace: true, resetScroll: false });
    // In the field the sheet stands below the list: what was tapped comes into sight.
    if (window.matchMedia("(max-width: 899px)").matches)
      document.getElementById("option-name")?.scrollIntoView({ block: "start" });
  };
  return (
    <ul>
      {rows.map((row) => (
        <OptionLine
          key={row.option.id}
          row={row}
          current={row === chosen}
          onChoose={() => void choose(row.option.id)}
          total={view.colonies.length}
          today={view.start_on}
        />
      ))}
    </ul>
  );
}
