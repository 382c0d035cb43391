/** The lines of the day's work: each says where, what and why, and leads to the act. */
import type { NavigateOptions } from "@tanstack/react-router";
import type { ReactNode } from "react";
import type { Schemas } from "@/client/types";
import { daysBetween, relativeDay, shortDay } from "@/ui/dates";
import { LevelMark } from "@/ui/level";
import { rate } from "@/ui/units";
import { useSentence } from "@/features/session/use-sentence";
import { LATE } from "@/wording/sentences";
import { PER, capital, colonies, stepName } from "@/wording/words";

/** Lines of work by kind, wherever they are listed. */
type Worklist = Pick<Schemas["WorklistView"], "today" | "over" | "steps" | "counts" | "boards" | "visits">;
type OverLine = Schemas["OverLine"];
export type Line = {
  key: string;
  apiary: string;
  kind: Schemas["Due"]["kind"];
  step?: string;
  mark: ReactNode;
  where: string;
  keeper: string;
  what: string;
  why: ReactNode;
  act: string;
  link: NavigateOptions;
  /** The colony to open first, where the work is a visit. */
  visit?: { colonyId: string; label: string };
};
export type Group = { id: string; title: string; says: string; lines: Line[] };

function labels(list: string[]): string {
  return list.length > 8 ? `${list.slice(0, 7).join(", ")} and ${list.length - 7} more` : list.join(", ");
}

/** What treating asks for: colonies to decide about, steps by their urgency, check counts. */
export function treatmentGroups(work: Worklist): Group[] {
  const steps = work.steps.map((line) => ({ line, shown: stepLine(line, work.today) }));
  const of = (fits: (line: Schemas["StepLine"]) => boolean) =>
    steps.filter((one) => fits(one.line)).map((one) => one.shown);
  const over = (answer: OverLine["answer"]) =>
    work.over.filter((line) => line.answer === answer).map((line) => overLine(line, work.today));
  const checks = of((line) => line.kind === "verify");
  const due = of((line) => line.kind !== "verify" && (line.urgency === "overdue" || line.urgency === "due"));
  const weather = of((line) => line.urgency === "waiting_for_weather");
  const soon = of((line) => line.kind !== "verify" && line.urgency === "soon");
  return [
    { id: "report", title: "Report", says: "a mite where there should be none", lines: over("report") },
    {
      id: "treat",
      title: "Treat",
      says: "over the threshold, no course under way; the highest first",
      lines: over("treat"),
    },
    {
      id: "flag",
      title: "Flag to the programme",
      says: "over the level that it watches; it does not treat",
      lines: over("flag"),
    },
    { id: "steps", title: "Steps of courses", says: "due or overdue", lines: due },
    { id: "weather", title: "Waiting for weather", says: "ready, but not today", lines: weather },
    { id: "checks", title: "Awaiting check count", says: "count again: did it work?", lines: checks },
    { id: "soon", title: "Coming up", says: "within three days", lines: soon },
  ];
}

/** What is to be counted: colonies, and boards to read. */
export function countGroups(work: Worklist): Group[] {
  return [
    {
      id: "count",
      title: "Count",
      says: "not known, or due within three days; the least known first",
      lines: work.counts.map(countLine(work)),
    },
    { id: "boards", title: "Read boards", says: "in for a day or longer", lines: work.boards.map(boardLine(work)) },
  ];
}

/** Everything that is due, what is about treatments first; what only comes up last. */
export function allGroups(work: Worklist): Group[] {
  const treatment = treatmentGroups(work);
  const visits = {
    id: "visits",
    title: "Visit",
    says: "the last visit set a day",
    lines: work.visits.map(visitLine(work)),
  };
  return [...treatment.slice(0, -1), ...countGroups(work), visits, ...treatment.slice(-1)];
}

/** What is due at an apiary, in the order of its dues. */
export function linesAt(work: Worklist, apiary: Schemas["ApiaryWork"]): Line[] {
  const at = (line: Line) =>
    apiary.due.findIndex((one) => one.kind === line.kind && (one.step ?? undefined) === line.step);
  return allGroups(work)
    .flatMap((group) => group.lines)
    .filter((line) => line.apiary === apiary.apiary_id)
    .sort((a, b) => at(a) - at(b));
}

/** A piece of work in a few words. */
export function inShort(due: Schemas["Due"]): string {
  switch (due.kind) {
    case "report":
      return "Report a mite";
    case "treat":
      return `Treat ${due.colonies}`;
    case "flag":
      return `Flag ${due.colonies}`;
    case "step":
      return `${stepName(due.step ?? "", due)}: ${due.colonies}`;
    case "verify":
      return `Check count of ${due.colonies}`;
    case "boards":
      return `Read ${due.colonies === 1 ? "the board" : `${due.colonies} boards`}`;
    case "count":
      return `Count ${due.colonies}`;
    case "visit":
      return `Open ${due.colonies}`;
    case "close":
      return `Close ${due.colonies === 1 ? "the course" : `${due.colonies} courses`}`;
  }
}

/** Colonies over: what is done about them is what their scheme answers. */
function overLine(line: OverLine, today: string): Line {
  const named = `${colonies(line.colonies)}: ${labels(line.labels)}`;
  const highest = `Highest ${rate(line.highest)} ${PER[line.scale]}`;
  const overdue = line.overdue_from ? `; overdue since ${shortDay(line.overdue_from, today)}` : "";
  const head = {
    key: `${line.answer}-${line.apiary_id}`,
    apiary: line.apiary_id,
    kind: line.answer,
    mark: <LevelMark level={line.urgent > 0 ? "urgent" : "act"} />,
    where: line.apiary,
    keeper: line.keeper,
  };
  const apiary: NavigateOptions = { to: "/apiaries/$id", params: { id: line.apiary_id } };
  if (line.answer === "report") {
    const why = `${highest}. Keep the mites and a photo; your authority says what follows.`;
    return { ...head, what: `A mite was found in ${named}`, why, act: "Go to the apiary", link: apiary };
  }
  const why = `${highest}, act at ${line.act_at}${overdue}.`;
  const what = `${colonies(line.colonies)} over the threshold: ${labels(line.labels)}`;
  if (line.answer === "flag") return { ...head, what, why, act: "Go to the apiary", link: apiary };
  const treat: NavigateOptions = { to: "/treat", search: { apiary: line.apiary_id, colonies: line.ids } };
  return { ...head, what, why, act: "Choose a treatment", link: treat };
}

function stepLine(line: Schemas["StepLine"], today: string): Line {
  return {
    key: `${line.plan_id}-${line.step}`,
    apiary: line.apiary_id,
    kind: line.kind === "verify" || line.kind === "close" ? line.kind : ("step" as const),
    step: line.step,
    mark: <StepGlyph urgency={line.urgency} />,
    where: line.apiary,
    keeper: line.keeper,
    what: `${stepName(line.step, line)}: ${labels(line.labels)}`,
    why: <StepWhy line={line} today={today} />,
    act: line.kind === "verify" ? "Count and verify" : "Open the step",
    link: { to: "/courses/$id", params: { id: line.course_id }, search: { step: line.step } },
  };
}

const countLine =
  (work: Worklist) =>
  (line: Schemas["CountLine"]): Line => ({
    key: `count-${line.apiary_id}`,
    apiary: line.apiary_id,
    kind: "count",
    mark: <LevelMark level={line.level} />,
    where: line.apiary,
    keeper: line.keeper,
    what: `Count ${colonies(line.colonies)}: ${labels(line.labels)}`,
    why: <CountWhy line={line} today={work.today} />,
    act: "Go to the bench",
    link: { to: "/bench", search: { apiary: line.apiary_id, colonies: line.ids.slice(0, 12) } },
  });

const boardLine =
  (work: Worklist) =>
  (line: Schemas["BoardLine"]): Line => ({
    key: `board-${line.apiary_id}`,
    apiary: line.apiary_id,
    kind: "boards",
    mark: <StepGlyph urgency={daysBetween(line.placed_at.slice(0, 10), work.today) > 3 ? "overdue" : "due"} />,
    where: line.apiary,
    keeper: line.keeper,
    what: `Read ${line.colonies === 1 ? "the board" : `${line.colonies} boards`}: ${labels(line.labels)}`,
    why: `Put in ${shortDay(line.placed_at.slice(0, 10), work.today)}. After three days a board reads low.`,
    act: "Read the boards",
    link: { to: "/bench", search: { apiary: line.apiary_id, colonies: line.ids, method: "board" } },
  });

const visitLine =
  (work: Worklist) =>
  (line: Schemas["VisitLine"]): Line => ({
    key: `visit-${line.apiary_id}`,
    apiary: line.apiary_id,
    kind: "visit",
    mark: <StepGlyph urgency={line.overdue > 0 ? "overdue" : "due"} />,
    where: line.apiary,
    keeper: line.keeper,
    what: `Open ${colonies(line.colonies)}: ${labels(line.labels)}`,
    why:
      `${line.overdue > 0 ? `${line.overdue} overdue, the first since` : "Due"} ` +
      `${shortDay(line.due_on, work.today)}${line.why ? `: ${line.why}` : ""}.`,
    act: "Go to the apiary",
    link: { to: "/apiaries/$id", params: { id: line.apiary_id } },
    ...(line.ids[0] && line.labels[0] && { visit: { colonyId: line.ids[0], label: line.labels[0] } }),
  });

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
  const say = useSentence();
  if (line.urgency === "waiting_for_weather") {
    return (
      <>
        {line.option_name}. {line.weather && say(line.weather)}
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
        {shortDay(line.latest, today)}). {LATE[line.kind]}
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
  return <>{capital(said)}.</>;
}
