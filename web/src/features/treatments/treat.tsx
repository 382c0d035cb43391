/** Choosing a treatment: on which day, then which; opened on the first day on which one could be placed. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { optionsQuery } from "@/client/queries";
import { ApiaryField } from "@/features/places/apiary-field";
import { useSession } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { shortDay, weekday } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Notice, Page, Title } from "@/ui/page";
import { rate } from "@/ui/units";
import { COURSE_STATE, SEASON, colonies } from "@/wording/words";
import { OnePlan } from "./one-plan";
import { OptionGrid } from "./option-grid";
import { rowsOf, type OptionRow, type Options } from "./option-rows";
import { OptionTable } from "./option-table";
import { OptionSheet } from "./option-sheet";
import { WhichColonies } from "./which-colonies";

export function Treat() {
  const { apiary, colonies: ids, start } = useSearch({ from: "/in/treat" });
  const query = useQuery({
    ...optionsQuery(apiary ?? "", ids ?? [], start),
    enabled: apiary !== undefined && (ids?.length ?? 0) > 0,
    placeholderData: (old) => old,
  });
  if (apiary === undefined) return <WhichApiary />;
  if (!ids?.length) return <WhichColonies apiary={apiary} />;
  return (
    <Loaded query={query} what="Weighing the options …">
      {(view) => <TreatSheet view={view} busy={query.isPlaceholderData} />}
    </Loaded>
  );
}

/** What is chosen already (an option, a day, the plan that it belongs to) goes along to the apiary. */
function WhichApiary() {
  const navigate = useNavigate({ from: "/treat" });
  const { plan } = useSearch({ from: "/in/treat" });
  return (
    <Page>
      <Title>Choose a treatment</Title>
      {plan && <p className="mt-1 text-ink-2">The same plan goes on at another apiary.</p>}
      <ApiaryField
        label="At which apiary?"
        onChange={(next) => void navigate({ search: (old) => ({ ...old, apiary: next }) })}
      />
    </Page>
  );
}

/** The option that is looked at: the one in the address, else the foremost of those that may be had on the day. */
function chosenOf(view: Options, rows: OptionRow[], wanted: string | undefined): OptionRow | undefined {
  const on = (id: string) => view.days.find((one) => one.option_id === id)?.days.find((d) => d.day === view.start_on);
  const asking = view.days.find((one) => one.group !== "supporting" && (on(one.option_id)?.asks ?? 0) > 0);
  return (
    rows.find((row) => row.option.id === wanted) ??
    rows.find((row) => row.all.ready > 0 && !row.all.is_supporting) ??
    rows.find((row) => row.option.id === asking?.option_id) ??
    rows.find((row) => row.all.verdict !== "never_here" && !row.all.is_supporting)
  );
}

/** `busy` while another day is weighed: what is tapped meanwhile would belong to the day before. */
function TreatSheet({ view, busy }: { view: Options; busy: boolean }) {
  const navigate = useNavigate({ from: "/treat" });
  const { option: wanted } = useSearch({ from: "/in/treat" });
  const rows = rowsOf(view);
  const chosen = chosenOf(view, rows, wanted);
  const choose = async (option: string, start: string) => {
    await navigate({ search: (old) => ({ ...old, option, start }), replace: true, resetScroll: false });
    // In the field the sheet stands below the grid: what was tapped comes into sight.
    if (window.matchMedia("(max-width: 899px)").matches)
      document.getElementById("option-name")?.scrollIntoView({ block: "start" });
  };
  return (
    <Page>
      <Breadcrumbs path={[{ name: view.apiary.name, to: "/apiaries/$id", params: { id: view.apiary.id } }]} />
      <h1 className="mt-1 text-3xl">
        <span className="sr-only">Choose a treatment. </span>
        <Answer view={view} chosen={chosen} />
      </h1>
      <ForWhom view={view} />
      <InCourseAlready view={view} />
      <div className="mt-4 grid items-start gap-x-8 gap-y-6 desk:grid-cols-[minmax(0,1fr)_24rem]">
        <section aria-label="Options by days" className="min-w-0">
          <OptionGrid view={view} chosen={chosen?.option.id} onChoose={(id, day) => void choose(id, day)} />
          <OptionTable
            view={view}
            rows={rows}
            chosen={chosen?.option.id}
            onChoose={(id) => void choose(id, view.start_on)}
          />
          <OnePlan view={view} />
          <NotHere view={view} rows={rows} chosen={chosen} onChoose={(id) => void choose(id, view.start_on)} />
          <p className="mt-3 text-sm text-ink-2">
            In each group what can begin first, then what kills more. Every value is a default: check your label. Label,
            law and your vet come first.
          </p>
        </section>
        <fieldset disabled={busy} className="min-w-0">
          {chosen && <OptionSheet key={`${chosen.option.id}-${view.start_on}`} row={chosen} view={view} />}
          <StepThrough rows={rows} chosen={chosen} onChoose={(id) => void choose(id, view.start_on)} />
        </fieldset>
      </div>
    </Page>
  );
}

type StepProps = { rows: OptionRow[]; chosen: OptionRow | undefined; onChoose: (option: string) => void };

/** On the phone one option fills the screen: the one before and the next are a tap away, in the order of the choice. */
function StepThrough({ rows, chosen, onChoose }: StepProps) {
  const open = rows.filter((row) => row.all.verdict !== "never_here" || row === chosen);
  const at = open.findIndex((row) => row === chosen);
  const before = open[at - 1];
  const after = open[at + 1];
  if (at < 0 || (!before && !after)) return null;
  return (
    <nav aria-label="Other options" className="mt-6 grid grid-cols-2 gap-2 desk:hidden">
      {before ? (
        <Button onClick={() => onChoose(before.option.id)}>Before: {before.option.short_name}</Button>
      ) : (
        <span />
      )}
      {after && <Button onClick={() => onChoose(after.option.id)}>Next: {after.option.short_name}</Button>}
    </nav>
  );
}

/** The whole answer in a line: when, and what. */
function Answer({ view, chosen }: { view: Options; chosen: OptionRow | undefined }) {
  const { today } = useSession();
  const name = chosen?.option.short_name;
  const ready = chosen !== undefined && chosen.all.ready > 0;
  if (!name) return <>{view.apiary.name}: nothing can be given here</>;
  const lower = `${name[0]?.toLowerCase()}${name.slice(1)}`;
  const at = `${view.apiary.name}: `;
  if (view.start_on === today) return <>{at + (ready ? `today, ${lower}` : `${lower}, not today`)}</>;
  const day = weekday(view.start_on);
  return <>{at + (ready ? `wait until ${day}, then ${lower}` : `${lower}, not on ${day}`)}</>;
}

function ForWhom({ view }: { view: Options }) {
  const rates = view.colonies.flatMap((one) => (one.per_100 === null ? [] : [one.per_100]));
  return (
    <p className="mt-1 text-ink-2">
      {colonies(view.colonies.length)}: {view.colonies.map((one) => one.label).join(", ")}.{" "}
      {rates.length > 0 ? `Highest ${rate(Math.max(...rates))} mites per 100 bees` : "No rate known"}. Season:{" "}
      {SEASON[view.season]}
      {view.winter_bee_date && `; first winter bees ${shortDay(view.winter_bee_date, view.start_on)}`}.
    </p>
  );
}

function InCourseAlready({ view }: { view: Options }) {
  const { today } = useSession();
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

type NotHereProps = {
  view: Options;
  rows: OptionRow[];
  chosen: OptionRow | undefined;
  onChoose: (option: string) => void;
};

/** What no day of the forecast allows: each can be looked at, with its reasons. */
function NotHere({ view, rows, chosen, onChoose }: NotHereProps) {
  const inGrid = new Set(
    view.days.filter((one) => one.days.some((day) => day.ready || day.asks)).map((one) => one.option_id),
  );
  const left = rows.filter((row) => !inGrid.has(row.option.id));
  if (left.length === 0) return null;
  return (
    <details className="mt-3" open={left.some((row) => row === chosen)}>
      <summary className="min-h-9 cursor-pointer py-1 underline underline-offset-4">
        {left.length} options are not authorised or do not suit in these days
      </summary>
      <ul className="grid gap-x-6 desk:grid-cols-2">
        {left.map((row) => (
          <li key={row.option.id} className="border-b border-line">
            <button
              type="button"
              aria-pressed={row === chosen}
              onClick={() => onChoose(row.option.id)}
              className={clsx("min-h-10 w-full py-1 text-left hover:underline", row === chosen && "font-bold")}>
              {row.option.name}
              {row.all.from_day && (
                <span className="text-sm text-ink-2">, from {shortDay(row.all.from_day, view.start_on)}</span>
              )}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
