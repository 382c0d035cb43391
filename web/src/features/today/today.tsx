/** Today: what is due, overdue, waiting for the weather or for its proof. Each line says why and opens the act. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState, type ReactNode } from "react";
import type { Schemas } from "@/client/api";
import { worklistQuery } from "@/client/queries";
import { LevelMark, Empty, Page, Slow, Trouble, KeyBar } from "@/ui/parts";
import { daysBetween, relativeDay, shortDay, weekday } from "@/ui/dates";
import { useKeys } from "@/ui/keys";
import { rate } from "@/ui/units";
import { useSay } from "@/wording/say";
import { PHASE, colonies, perOf, stepName, unitOf } from "@/wording/words";

type Worklist = Schemas["WorklistView"];
type Line = {
  key: string;
  mark: ReactNode;
  act: string;
  where: string;
  keeper: string;
  what: string;
  why: ReactNode;
  to: ReactNode;
  go: () => void;
};

export function Today() {
  const query = useQuery(worklistQuery);
  if (query.isPending) return <Slow what="Looking up what is due …" />;
  if (query.isError) return <Trouble error={query.error} retry={() => void query.refetch()} />;
  return <TodaySheet work={query.data} />;
}

function labels(list: string[]): string {
  return list.length > 8 ? `${list.slice(0, 7).join(", ")} and ${list.length - 7} more` : list.join(", ");
}

function TodaySheet({ work }: { work: Worklist }) {
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(0);
  const groups = useGroups(work, navigate);
  const lines = groups.flatMap((group) => group.lines);
  const move = (step: number) => {
    const next = Math.min(Math.max(chosen + step, 0), lines.length - 1);
    setChosen(next);
    document.getElementById(`line-${next}`)?.scrollIntoView({ block: "nearest" });
  };
  useKeys([
    { key: "j", says: "next line", run: () => move(1) },
    { key: "k", says: "line before", run: () => move(-1) },
    { key: "Enter", shown: "Return", says: "open the line", run: () => lines[chosen]?.go() },
  ]);
  const overdue = work.steps.filter((line) => line.urgency === "overdue").length;
  let number = -1;
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
            .{" "}
            <Link to="/ahead" className="inline-block py-1 underline underline-offset-4">
              What comes
            </Link>{" "}
            <Link to="/count-weeks" className="ml-2 inline-block py-1 underline underline-offset-4">
              Count weeks
            </Link>
          </p>
        </div>
        {work.colonies === 0 && (
          <div className="mt-8">
            <Empty title="No colonies yet">
              Add your first apiary and its colonies; what is due for them will stand here every day.{" "}
              <Link to="/places" className="inline-block py-1 underline underline-offset-4">
                Go to Places
              </Link>
            </Empty>
          </div>
        )}
        {lines.length === 0 && work.colonies > 0 && (
          <div className="mt-8 border-t border-line pt-8">
            <h2 className="text-2xl">Nothing is due.</h2>
            <p className="mt-2 text-ink-2">
              Every colony has been counted and every course is in hand.{" "}
              <Link to="/places" className="underline underline-offset-4">
                Look over the apiaries.
              </Link>
            </p>
          </div>
        )}
        {overdue > 0 && <p className="sr-only">{overdue} overdue</p>}
        {groups.map(
          (group) =>
            group.lines.length > 0 && (
              <section key={group.title} className="mt-7" aria-labelledby={group.id}>
                <h2 id={group.id} className="flex items-baseline gap-3 border-b-2 border-ink pb-1 text-xl">
                  {group.title}
                  <span className="font-sans text-base font-normal text-ink-2">{group.says}</span>
                </h2>
                <ul>
                  {group.lines.map((line) => {
                    number += 1;
                    const own = number;
                    return (
                      <li
                        key={line.key}
                        id={`line-${own}`}
                        className={`grid grid-cols-[1.5rem_minmax(0,1fr)] items-center gap-x-3 gap-y-1 border-b border-line py-3 desk:grid-cols-[1.5rem_15rem_minmax(0,1fr)_auto] desk:py-2 ${own === chosen ? "desk:bg-sheet desk:shadow-[inset_3px_0_0_var(--ink)]" : ""}`}
                        onMouseEnter={() => setChosen(own)}>
                        <span className="flex justify-center">{line.mark}</span>
                        <span className="min-w-0">
                          <span className="block font-head text-lg font-semibold leading-tight">{line.where}</span>
                          <span className="block text-sm text-ink-2">{line.keeper}</span>
                        </span>
                        <span className="col-start-2 min-w-0 desk:col-start-auto">
                          <span className="block font-semibold">{line.what}</span>
                          <span className="block text-sm text-ink-2">{line.why}</span>
                        </span>
                        <span className="col-start-2 justify-self-stretch desk:col-start-auto desk:justify-self-end">
                          {line.to}
                        </span>
                      </li>
                    );
                  })}
                </ul>
              </section>
            ),
        )}
        {work.more && (
          <p className="mt-4 text-ink-2">More is due than fits here. Work from the top; the rest moves up.</p>
        )}
      </Page>
      <KeyBar
        keys={[
          ["j", "next"],
          ["k", "before"],
          ["Return", "open"],
          ["?", "all keys"],
        ]}
      />
    </>
  );
}

const LINK =
  "inline-flex min-h-14 w-full items-center justify-center rounded-[2px] border border-ink bg-sheet px-4 font-semibold desk:min-h-9 desk:w-48 desk:whitespace-nowrap hover:bg-paper";

function useGroups(work: Worklist, navigate: ReturnType<typeof useNavigate>) {
  const treat: Line[] = work.treat.map((line) => ({
    key: `treat-${line.apiary_id}`,
    mark: <LevelMark level={line.urgent > 0 ? "urgent" : "act"} />,
    act: "Choose a treatment",
    where: line.apiary,
    keeper: line.keeper,
    what: `${colonies(line.colonies)} over the threshold: ${labels(line.labels)}`,
    why: (
      <>
        Highest {rate(line.highest)} {perOf(line.scheme)}, act at {line.act_at}
        {line.overdue_from ? `; overdue since ${shortDay(line.overdue_from, work.today)}` : ""}.
      </>
    ),
    to: (
      <Link to="/treat" search={{ apiary: line.apiary_id, colonies: line.ids }} className={LINK}>
        Choose a treatment
      </Link>
    ),
    go: () => void navigate({ to: "/treat", search: { apiary: line.apiary_id, colonies: line.ids } }),
  }));
  const steps = work.steps.map((line): Line & { urgency: string; kind: string } => ({
    key: `${line.plan_id}-${line.step}`,
    urgency: line.urgency,
    kind: line.kind,
    mark: <StepGlyph urgency={line.urgency} />,
    act: stepName(line.step, 2),
    where: line.apiary,
    keeper: line.keeper,
    what: `${stepName(line.step, 2)}: ${labels(line.labels)}`,
    why: <StepWhy line={line} today={work.today} />,
    to: (
      <Link to="/courses/$id" params={{ id: line.course_id }} search={{ step: line.step }} className={LINK}>
        {line.kind === "verify" ? "Count and prove" : "Open the step"}
      </Link>
    ),
    go: () => void navigate({ to: "/courses/$id", params: { id: line.course_id }, search: { step: line.step } }),
  }));
  const counts: Line[] = work.counts.map((line) => ({
    key: `count-${line.apiary_id}`,
    mark: <LevelMark level={line.level} />,
    act: "Count",
    where: line.apiary,
    keeper: line.keeper,
    what: `Count ${colonies(line.colonies)}: ${labels(line.labels)}`,
    why: <CountWhy line={line} today={work.today} />,
    to: (
      <Link to="/bench" search={{ apiary: line.apiary_id, colonies: line.ids.slice(0, 12) }} className={LINK}>
        Go to the bench
      </Link>
    ),
    go: () => void navigate({ to: "/bench", search: { apiary: line.apiary_id, colonies: line.ids.slice(0, 12) } }),
  }));
  const boards: Line[] = work.boards.map((line) => ({
    key: `board-${line.apiary_id}`,
    mark: <StepGlyph urgency={daysBetween(line.placed_at.slice(0, 10), work.today) > 3 ? "overdue" : "due"} />,
    act: "Read",
    where: line.apiary,
    keeper: line.keeper,
    what: `Read ${line.colonies === 1 ? "the board" : `${line.colonies} boards`}: ${labels(line.labels)}`,
    why: `Laid ${shortDay(line.placed_at.slice(0, 10), work.today)}. After three days a board reads low.`,
    to: (
      <Link to="/bench" search={{ apiary: line.apiary_id, colonies: line.ids, way: "board" }} className={LINK}>
        Read the boards
      </Link>
    ),
    go: () => void navigate({ to: "/bench", search: { apiary: line.apiary_id, colonies: line.ids, way: "board" } }),
  }));
  const visits: Line[] = work.visits.map((line) => ({
    key: `visit-${line.apiary_id}`,
    mark: <StepGlyph urgency={line.overdue > 0 ? "overdue" : "due"} />,
    act: "Visit",
    where: line.apiary,
    keeper: line.keeper,
    what: `Open ${colonies(line.colonies)}: ${labels(line.labels)}`,
    why: `${line.overdue > 0 ? `${line.overdue} overdue, the first since` : "Due"} ${shortDay(line.due_on, work.today)}${line.why ? `: ${line.why}` : ""}.`,
    to: (
      <Link to="/places/$id" params={{ id: line.apiary_id }} className={LINK}>
        Go to the apiary
      </Link>
    ),
    go: () => void navigate({ to: "/places/$id", params: { id: line.apiary_id } }),
  }));
  const proof = steps.filter((line) => line.kind === "verify");
  const doing = steps.filter(
    (line) => line.kind !== "verify" && line.urgency !== "waiting_for_weather" && line.urgency !== "soon",
  );
  const weather = steps.filter((line) => line.urgency === "waiting_for_weather");
  const soon = steps.filter((line) => line.kind !== "verify" && line.urgency === "soon");
  return [
    { id: "g-treat", title: "Treat", says: "over the threshold, no course under way", lines: treat },
    { id: "g-steps", title: "Steps of courses", says: "due or overdue", lines: doing },
    { id: "g-weather", title: "Waiting for weather", says: "ready, but not today", lines: weather },
    { id: "g-proof", title: "Waiting for proof", says: "count again: did it work?", lines: proof },
    { id: "g-count", title: "Count", says: "not known, or due within three days", lines: counts },
    { id: "g-board", title: "Read boards", says: "lying a day or longer", lines: boards },
    { id: "g-visit", title: "Visit", says: "the last visit set a day", lines: visits },
    { id: "g-soon", title: "Coming up", says: "within three days", lines: soon },
  ];
}

/** The step's own glyph: a filled flag is overdue, a drop waits for weather, an open flag is due. */
function StepGlyph({ urgency }: { urgency: Schemas["StepLine"]["urgency"] }) {
  const colour = urgency === "overdue" ? "text-act" : "text-course";
  return (
    <svg width="18" height="18" viewBox="0 0 18 18" aria-hidden="true" className={colour}>
      {urgency === "waiting_for_weather" ? (
        <path
          d="M9 2c3 4.2 4.6 6.6 4.6 9a4.6 4.6 0 0 1-9.2 0C4.4 8.600 6 6.200 9 2z"
          fill="none"
          stroke="currentColor"
          strokeWidth="2"
        />
      ) : (
        <path
          d="M4 17V2h10l-3 3.500L14 9H4"
          fill={urgency === "overdue" ? "currentColor" : "none"}
          stroke="currentColor"
          strokeWidth="2"
        />
      )}
    </svg>
  );
}

function StepWhy({ line, today }: { line: Schemas["StepLine"]; today: string }) {
  const say = useSay();
  if (line.urgency === "waiting_for_weather") {
    return (
      <>
        {line.option_name}. {say(line.weather)}
        {line.next_usable
          ? `; next usable day ${shortDay(line.next_usable, today)}`
          : "; no usable day in the forecast"}
        .
      </>
    );
  }
  if (line.urgency === "overdue") {
    return (
      <>
        <strong className="text-act">Overdue by {daysBetween(line.latest, today)} days</strong> (latest{" "}
        {shortDay(line.latest, today)}). {line.late_cost}
      </>
    );
  }
  return (
    <>
      {line.option_name}. Best {relativeDay(line.ideal, today)}, at the latest {shortDay(line.latest, today)}.
    </>
  );
}

function CountWhy({ line, today }: { line: Schemas["CountLine"]; today: string }) {
  const parts = [];
  if (line.never > 0) parts.push(`${line.never} never counted`);
  if (line.too_old > 0) parts.push(`${line.too_old} not known any more`);
  if (line.oldest_count_on) parts.push(`oldest count ${shortDay(line.oldest_count_on, today)}`);
  else if (line.due_on) parts.push(`due ${relativeDay(line.due_on, today)}`);
  const said = parts.join("; ");
  return <>{said.slice(0, 1).toUpperCase() + said.slice(1)}.</>;
}
