/** A colony: its strip large, the queen, lineage, every record in time order, and what follows next. */
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { colonyQuery, forecastQuery } from "@/client/queries";
import { Meaning, adviceOf, countedOf } from "@/features/sampling/meaning";
import { useMay } from "@/features/session/use-session";
import { RateRule } from "@/instruments/rate-rule";
import { SeasonStrip, StripHead, type Span } from "@/instruments/season-strip";
import { daysBetween, longDay, shortDay } from "@/ui/dates";
import { PURPOSE, useFrameName } from "@/ui/boxes";
import { useKeys } from "@/ui/keys";
import { Button } from "@/ui/button";
import { KeyBar } from "@/ui/key-bar";
import { LevelMark, QueenMark } from "@/ui/level";
import { ErrorPage, Loading, Notice, Page } from "@/ui/page";
import { rate } from "@/ui/units";
import { useWidth } from "@/ui/use-width";
import { COURSE_SHORT } from "@/wording/options";
import { COURSE_STATE, LEVEL_REASON, QUEEN_STATUS, SCALE, METHOD, levelWord, perOf, stepName } from "@/wording/words";
import { AmendCount } from "./amend-count";
import { PictureKept } from "./picture-kept";
import { useOpenVisit } from "@/features/visits/use-open-visit";
import { Rise } from "./change-between-counts";
import { ColonyForms, type ColonyForm } from "./colony-forms";

type View = Schemas["ColonyView"];

export function Colony() {
  const { id } = useParams({ from: "/in/colonies/$id" });
  const query = useQuery(colonyQuery(id));
  if (query.isPending) return <Loading what="Opening the colony's record …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return <ColonySheet view={query.data} />;
}

function ColonySheet({ view }: { view: View }) {
  const navigate = useNavigate();
  const mayRecord = useMay("record");
  const [form, setForm] = useState<ColonyForm | null>(null);
  const [amending, setAmending] = useState<Schemas["Count"] | null>(null);
  const { colony } = view;
  const [box, width] = useWidth<HTMLDivElement>(900);
  const ahead = useQuery(forecastQuery(colony.id));
  const span: Span = { first: view.first, last: view.last, today: view.today, width };
  const lives = colony.is_living;
  const open = view.courses.find((one) => one.is_open && one.next_step !== null);
  const toBench = () => void navigate({ to: "/bench", search: { apiary: colony.apiary_id, colonies: [colony.id] } });
  const toTreat = () => void navigate({ to: "/treat", search: { apiary: colony.apiary_id, colonies: [colony.id] } });
  const opening = useOpenVisit();
  const toVisit = () => opening.mutate({ colonyId: colony.id });
  useKeys([
    { key: "c", says: "count", run: () => lives && mayRecord && toBench() },
    { key: "o", says: "choose a treatment", run: () => lives && mayRecord && toTreat() },
    { key: "v", says: "record a visit", run: () => lives && mayRecord && toVisit() },
  ]);
  const strip = view.courses
    .filter((one) => one.state !== "abandoned")
    .map((one) => {
      const ending = one.steps.find((step) => step.kind === "remove" || step.kind === "end");
      return {
        id: one.id,
        option_id: one.option.id,
        state: one.state,
        occupies_from: one.placed_on ?? one.start_on,
        occupies_to: one.ended_on ?? ending?.ideal ?? one.start_on,
        honey_clear_on: one.honey_clear_on,
        placings: one.steps
          .filter((step) => step.kind === "place" && step.act?.outcome === "done")
          .map((step) => step.act?.done_on ?? ""),
      };
    });
  const levels =
    view.latest?.judgement ?? view.phases.find((band) => band.first <= view.today && view.today <= band.last);
  const queen = view.queens[0];
  const frameName = useFrameName();
  return (
    <>
      <Page>
        <nav aria-label="Path" className="text-sm text-ink-2">
          <Link to="/apiaries" className="inline-block py-1 underline underline-offset-4">
            Places
          </Link>
          <span aria-hidden="true"> / </span>
          <Link
            to="/apiaries/$id"
            params={{ id: view.apiary.id }}
            className="inline-block py-1 underline underline-offset-4">
            {view.apiary.name}
          </Link>
        </nav>
        <div className="mt-1 grid gap-x-10 gap-y-5 desk:grid-cols-[minmax(0,15rem)_minmax(0,1fr)_auto]">
          <div>
            <h1 className={colony.label.length > 8 ? "text-2xl" : "text-5xl"}>{colony.label}</h1>
            <p className="mt-1 text-ink-2">
              {view.apiary.name}, {view.apiary.keeper}
            </p>
            {view.hold && (
              <p className="mt-1 font-semibold text-act">
                On hold since {shortDay(view.hold.since, view.today)}: {view.hold.why}
              </p>
            )}
            {!lives && (
              <p className="mt-1 font-semibold">
                {colony.state} {longDay(colony.state_since)}
              </p>
            )}
          </div>
          <NextAct view={view} open={open} />
          {lives && mayRecord && (
            <div className="flex flex-wrap content-start gap-2">
              <Button variant="main" onClick={toBench}>
                Count
              </Button>
              <Button onClick={toTreat}>Choose a treatment</Button>
              <Button onClick={toVisit} disabled={opening.isPending}>
                {view.draft ? "Go on with the visit" : "Start a visit"}
              </Button>
              {!view.draft && (
                <Button variant="quiet" onClick={() => setForm("earlier")}>
                  Add a past visit
                </Button>
              )}
              <Button variant="quiet" onClick={() => setForm("hold")}>
                {view.hold ? "On hold" : "Hold"}
              </Button>
              {opening.error && (
                <p role="alert" className="w-full font-semibold text-act">
                  {opening.error.message}
                </p>
              )}
            </div>
          )}
        </div>

        <section className="mt-6" aria-label="Season">
          <div ref={box}>
            <StripHead span={span} phases={view.phases} />
            <SeasonStrip
              span={span}
              height={190}
              phases={view.phases}
              counts={view.points}
              falls={view.axis === "mites_per_day"}
              courses={strip}
              visits={view.visits.map((one) => one.visited_on)}
              level={colony.level}
              countedOn={colony.counted_on}
              label={`Colony ${colony.label}`}
              scale
              courseName={(id) => COURSE_SHORT[id] ?? id}
              ahead={ahead.data?.views[0]?.days ?? []}
            />
          </div>
          {lives && (
            <p className="mt-1 text-right">
              <Link
                to="/colonies/$id/forecast"
                params={{ id: colony.id }}
                search={{}}
                className="inline-flex min-h-14 items-center underline underline-offset-4 desk:min-h-8">
                Forecast, and what each treatment would do
              </Link>
            </p>
          )}
        </section>

        <div className="mt-7 grid gap-x-10 gap-y-8 desk:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
          <section aria-labelledby="now">
            <h2 id="now" className="border-b-2 border-ink pb-1 text-xl">
              {lives ? "Current level" : "Its last count"}
            </h2>
            <div className="mt-3 flex items-end gap-4">
              <LevelMark level={colony.level} size={30} />
              <span
                className={`figure text-6xl ${colony.level === "act" || colony.level === "urgent" ? "text-act" : ""}`}>
                {(colony.level === "unknown" && lives) || colony.median === null ? "?" : rate(colony.median)}
              </span>
              <p className="pb-1 text-ink-2">
                {colony.median === null ? (
                  "never counted"
                ) : (
                  <>
                    {SCALE[colony.scale ?? "mites_per_100"]}
                    {colony.level === "unknown"
                      ? ` on ${shortDay(colony.counted_on ?? "", view.today)}${lives ? `: ${rate(colony.median)}` : ""}`
                      : ""}
                    <br />
                    <strong className="text-ink">
                      {rate(colony.low ?? 0)} to {rate(colony.high ?? 0)}
                    </strong>
                    , 95 % interval
                  </>
                )}
              </p>
            </div>
            {view.latest?.pair && <MadeOfTwo latest={view.latest} />}
            <p className={lives ? "mt-2" : "hidden"}>
              <strong>{levelWord(colony.level, view.scheme)}</strong>: {LEVEL_REASON[colony.level_reason] ?? ""}
              {colony.counted_on && `, counted ${daysBetween(colony.counted_on, view.today)} days ago`}.
            </p>
            {lives && levels && (
              <div className="mt-3">
                <RateRule
                  levels={levels}
                  reading={
                    colony.level === "unknown" || colony.median === null
                      ? null
                      : { median: colony.median, low: colony.low ?? 0, high: colony.high ?? 0 }
                  }
                  label={`Colony ${colony.label}`}
                  falls={view.scheme === "fall_phase"}
                />
              </div>
            )}
            {lives && view.latest && <Meaning meaning={view.latest} today={view.today} compact />}
            <Rise view={view} />
          </section>

          <div className="space-y-8">
            <section aria-labelledby="queen">
              <h2 id="queen" className="flex items-baseline justify-between border-b-2 border-ink pb-1 text-xl">
                Queen
                {lives && mayRecord && <HeadButton onClick={() => setForm("queen")}>Change</HeadButton>}
              </h2>
              {queen && queen.queen.until === null ? (
                <div className="mt-2">
                  <p className="flex items-center gap-2">
                    {queen.queen.mark_seen && <QueenMark colour={queen.queen.mark_seen} />}
                    <span>
                      <strong>{queen.queen.year ?? "year not known"}</strong>
                      {queen.queen.mark_seen ? `, marked ${queen.queen.mark_seen}` : ", no mark seen"}
                      {queen.mark_expected &&
                        !queen.queen.mark_seen &&
                        ` (her year's colour is ${queen.mark_expected})`}
                      , {QUEEN_STATUS[queen.queen.status]}
                    </span>
                  </p>
                  <p className="text-sm text-ink-2">
                    queen since {shortDay(queen.queen.since, view.today)}
                    {queen.queen.laying_since && `, laying since ${shortDay(queen.queen.laying_since, view.today)}`}
                  </p>
                  {queen.mark_differs && (
                    <div className="mt-2">
                      <Notice>{queen.mark_differs}</Notice>
                    </div>
                  )}
                </div>
              ) : (
                <p className="mt-2 text-ink-2">No queen on record.</p>
              )}
            </section>

            <section aria-labelledby="hive">
              <h2 id="hive" className="flex items-baseline justify-between border-b-2 border-ink pb-1 text-xl">
                Hive
                {lives && mayRecord && (
                  <span className="flex gap-5">
                    <HeadButton onClick={() => setForm("hive")}>Change the boxes</HeadButton>
                    <HeadButton onClick={() => setForm("move")}>Move it</HeadButton>
                  </span>
                )}
              </h2>
              {view.hive.length === 0 ? (
                <p className="mt-2 text-ink-2">No hive on record.</p>
              ) : (
                <>
                  <p className="mt-2">
                    {view.hive[0]?.hive_type}
                    {(view.hive[0]?.labels ?? []).length > 1 &&
                      `, shared by ${(view.hive[0]?.labels ?? []).join(" and ")}`}
                    {view.hive[0]?.divided_after != null &&
                      `, divided after frame ${view.hive[0].divided_after}: ${view.colony.label} lives on the ${view.hive[0].left_label === view.colony.label ? "left" : "right"}`}
                  </p>
                  <ol className="mt-1 flex flex-col-reverse text-sm">
                    {view.hive
                      .filter((one) => one.position !== null)
                      .map((one) => (
                        <li
                          key={one.position}
                          className="-mt-px flex justify-between gap-3 border border-line-2 bg-sheet px-3 py-1">
                          <span>
                            {PURPOSE[one.purpose as keyof typeof PURPOSE]}
                            {one.frames ? `, ${one.frames} x ${frameName(one.frame_format)}` : ""}
                          </span>
                          <span className="whitespace-nowrap text-ink-2">
                            {one.since && `since ${shortDay(one.since, view.today)}`}
                          </span>
                        </li>
                      ))}
                  </ol>
                </>
              )}
            </section>

            <section aria-labelledby="lineage">
              <h2 id="lineage" className="flex items-baseline justify-between border-b-2 border-ink pb-1 text-xl">
                Lineage
                {lives && mayRecord && <HeadButton onClick={() => setForm("state")}>Renumber, merge or end</HeadButton>}
              </h2>
              <ul className="mt-2 space-y-1">
                {view.events.map((event) => (
                  <li key={event.id} className="grid grid-cols-[7rem_1fr] gap-2">
                    <span className="text-ink-2">{shortDay(event.happened_on, view.today)}</span>
                    <span>
                      <Lineage event={event} own={colony.id} />
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          </div>
        </div>

        <Records view={view} onAmend={mayRecord ? setAmending : null} />
        {amending && <AmendCount count={amending} today={view.today} onClose={() => setAmending(null)} />}
        <ColonyForms form={form} onClose={() => setForm(null)} view={view} />
      </Page>
      <KeyBar
        keys={[
          ["c", "count"],
          ["o", "treat"],
          ["v", "visit"],
          ["?", "all keys"],
        ]}>
        dotted: act level. bar: 95 % interval. square: over. diamond: converted from a board. blue: course
      </KeyBar>
    </>
  );
}

function HeadButton({ onClick, children }: { onClick: () => void; children: React.ReactNode }) {
  return (
    <button
      type="button"
      className="min-h-14 font-sans text-base font-normal underline underline-offset-4 desk:min-h-8"
      onClick={onClick}>
      {children}
    </button>
  );
}

/** What to do with it next; the core decides, this words it. */
function NextAct({ view, open }: { view: View; open: Schemas["CourseView"] | undefined }) {
  const { colony, advice } = view;
  switch (advice.act) {
    case "none":
      return <div />;
    case "step":
      return <NextStep view={view} open={open} />;
    case "second_sample": {
      const words = view.latest?.judgement
        ? adviceOf(view.latest.judgement, view.today)
        : { title: "Wash a second jar.", text: "" };
      const last = view.latest?.last_start
        ? ` The last sensible start of a treatment is ${shortDay(view.latest.last_start.on, view.today)}.`
        : "";
      return <Advice title={words.title} text={words.text + last} />;
    }
    case "treat":
    case "flag":
    case "report": {
      const overdue = colony.overdue_from ? `; overdue since ${shortDay(colony.overdue_from, view.today)}` : "";
      return (
        <Advice
          pressing
          title={ANSWER[advice.act]}
          text={`At or over ${colony.act_at} ${perOf(colony.scheme)}${overdue}.`}
        />
      );
    }
    case "count":
      return (
        <Advice
          title="Count now."
          text={colony.counted_on ? "The current level is not known any more." : "It was never counted."}
        />
      );
    case "count_by":
      return (
        <Advice
          title={`Count again by ${shortDay(advice.by ?? view.today, view.today)}.`}
          text="From the latest count and the season's growth."
        />
      );
  }
}

const ANSWER = { treat: "Treat this colony.", flag: "Flag it to the programme lead.", report: "Report it." } as const;

/** What the large figure is made of, where it is not the latest count's own. */
function MadeOfTwo({ latest }: { latest: NonNullable<View["latest"]> }) {
  if (!latest.pair) return null;
  const own = latest.count.median === null ? "" : ` The latest alone: ${rate(latest.count.median)}.`;
  return (
    <p className="mt-2 text-ink-2">
      Two counts taken as one: {latest.pair.mites} mites in about {Math.round(latest.pair.bees_mean ?? 0)} bees.{own}
    </p>
  );
}

function Advice({ title, text, pressing = false }: { title: string; text: string; pressing?: boolean }) {
  return (
    <div>
      <p className={`font-head text-2xl font-semibold ${pressing ? "text-act" : ""}`}>{title}</p>
      <p className="mt-1 text-ink-2">{text}</p>
    </div>
  );
}

function NextStep({ view, open }: { view: View; open: Schemas["CourseView"] | undefined }) {
  const step = open?.steps.find((one) => one.name === open.next_step);
  if (!open || !step) return <div />;
  return (
    <div>
      <p className="font-head text-2xl font-semibold">
        {stepName(step.name, open.option.applications)}: {shortDay(step.ideal, view.today)}
      </p>
      <p className="mt-1 text-ink-2">
        {open.option.name}.{" "}
        <Link to="/courses/$id" params={{ id: open.id }} className="inline-block py-1 underline underline-offset-4">
          Open the course
        </Link>
      </p>
    </div>
  );
}

function Lineage({ event, own }: { event: Schemas["ColonyEvent"]; own: string }) {
  const otherId = event.colony_id === own ? event.other_colony_id : event.colony_id;
  const otherLabel = event.colony_id === own ? event.other_label : event.own_label;
  const other = otherId ? (
    <Link to="/colonies/$id" params={{ id: otherId }} className="inline-block py-0.5 underline underline-offset-4">
      {otherLabel}
    </Link>
  ) : null;
  const mine = event.colony_id === own;
  const note = event.note ? ` ${event.note}` : "";
  switch (event.kind) {
    case "split_from":
      return mine ? <>split from {other}</> : <>{other} was split from it</>;
    case "merged_into":
      return mine ? (
        <>
          merged into {other}.{note}
        </>
      ) : (
        <>
          {other} was merged into it.{note}
        </>
      );
    case "renumbered":
      return (
        <>
          renumbered from {event.previous} to {event.current}
        </>
      );
    case "moved":
      return event.previous === event.current ? (
        <>moved into another hive.{note}</>
      ) : (
        <>
          moved from {event.previous} to {event.current}.{note}
        </>
      );
    case "state":
      return (
        <>
          {event.previous}, now {event.current}.{note}
        </>
      );
    default:
      return <>on record since</>;
  }
}

type Entry = { key: string; day: string; body: React.ReactNode };

function Records({ view, onAmend }: { view: View; onAmend: ((count: Schemas["Count"]) => void) | null }) {
  const [all, setAll] = useState(false);
  const [picture, setPicture] = useState<string | null>(null);
  const entries: Entry[] = [
    ...view.counts.map((count) => ({
      key: count.id,
      day: count.taken_on,
      body: (
        <>
          <strong>
            {METHOD[count.method].slice(0, 1).toUpperCase() + METHOD[count.method].slice(1)}
            {count.shakes && count.shakes.length > 1 ? ` ${count.shakes.join(" + ")}` : ""}
          </strong>
          : {countedOf(count)}
          {count.median !== null && count.scale && (
            <>
              : <strong>{rate(count.median)}</strong> {SCALE[count.scale]} ({rate(count.low ?? 0)} to{" "}
              {rate(count.high ?? 0)})
            </>
          )}
          {count.version > 1 && <em className="text-ink-2"> amended</em>}.{" "}
          <span className="text-ink-2">{count.by_name}</span>
          {count.note && <span className="block text-ink-2">{count.note}</span>}
          {count.picture_id && (
            <button
              type="button"
              className="ml-2 min-h-7 text-sm underline underline-offset-4"
              onClick={() => setPicture(count.picture_id)}>
              Its picture
            </button>
          )}
          {onAmend && !count.picture_id && (
            <button
              type="button"
              className="ml-2 min-h-7 text-sm underline underline-offset-4"
              onClick={() => onAmend(count)}>
              Amend
            </button>
          )}
        </>
      ),
    })),
    ...view.visits.map((visit) => ({
      key: visit.id,
      day: visit.visited_on,
      body: (
        <>
          <Link
            to="/visits/$id"
            params={{ id: visit.id }}
            className="inline-block py-0.5 font-bold underline underline-offset-4">
            Visit
          </Link>
          {visit.strength !== null && `: ${visit.strength} ${visit.strength_unit} of bees`}
          {visit.capped_brood !== "unknown" && (visit.capped_brood === "yes" ? ", capped brood" : ", no capped brood")}
          {visit.eggs_seen && ", eggs"}
          {visit.queen_seen && ", queen seen"}
          {visit.supers_on && ", supers on"}. <span className="text-ink-2">{visit.by_name}</span>
          {visit.note && <span className="block text-ink-2">{visit.note}</span>}
        </>
      ),
    })),
    ...view.courses.map((course) => ({
      key: course.id,
      day: course.placed_on ?? course.start_on,
      body: (
        <>
          <Link
            to="/courses/$id"
            params={{ id: course.id }}
            className="inline-block py-0.5 font-bold underline underline-offset-4">
            {course.option.name}
          </Link>
          , {COURSE_STATE[course.state]}
          {course.verdict?.median_pct != null && ` (${Math.round(course.verdict.median_pct)} % killed)`}.{" "}
          <span className="text-ink-2">{course.by_name}</span>
        </>
      ),
    })),
  ].sort((a, b) => b.day.localeCompare(a.day));
  const shown = all ? entries : entries.slice(0, 12);
  return (
    <section className="mt-10" aria-labelledby="records">
      <h2 id="records" className="border-b-2 border-ink pb-1 text-xl">
        Every record
      </h2>
      {entries.length === 0 && (
        <p className="mt-3 text-ink-2">
          {view.colony.is_living ? "Nothing recorded yet. Begin with a count." : "Nothing was recorded."}
        </p>
      )}
      <ol>
        {shown.map((entry) => (
          <li key={entry.key} className="grid grid-cols-[6.5rem_1fr] gap-3 border-b border-line py-2">
            <span className="text-ink-2">{shortDay(entry.day, view.today)}</span>
            <div>{entry.body}</div>
          </li>
        ))}
      </ol>
      {entries.length > shown.length && (
        <Button variant="quiet" onClick={() => setAll(true)}>
          Show all {entries.length} records
        </Button>
      )}
      {picture && <PictureKept id={picture} onClose={() => setPicture(null)} />}
    </section>
  );
}
