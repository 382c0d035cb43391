/**
 * The treatments of a day at one apiary: what to take along, then hive by hive what is done there, a hive a screen on
 * the phone.
 */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { clsx } from "clsx";
import { useState } from "react";
import { treatmentRoundQuery } from "@/client/queries";
import { ApiaryField } from "@/features/places/apiary-field";
import { useSentence } from "@/features/session/use-sentence";
import { useMay } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { relativeDay, shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, SectionHeading, Title } from "@/ui/page";
import { useDesk } from "@/ui/use-desk";
import { courseStep } from "@/wording/words";
import { AtTheHive, DoneToday, NextHive } from "./round-hive";
import { BackHome, BeforeYouGo, TakeAlong } from "./round-take";
import { StepGlyph } from "./step-glyph";
import { atHive, type Round, type Stop } from "./round-stops";
import type { Carried } from "./use-record-step";

export function TreatmentRound() {
  const { apiary } = useSearch({ from: "/in/treatment-round" });
  const query = useQuery({ ...treatmentRoundQuery(apiary ?? ""), enabled: apiary !== undefined });
  return (
    <Page>
      {apiary === undefined ? (
        <WhichApiary />
      ) : (
        <Loaded query={query} what="Putting the day together …">
          {(round) => <RoundSheet round={round} />}
        </Loaded>
      )}
    </Page>
  );
}

function WhichApiary() {
  const navigate = useNavigate({ from: "/treatment-round" });
  return (
    <>
      <Title>Treatments of the day</Title>
      <ApiaryField label="Apiary" onChange={(next) => void navigate({ search: { apiary: next }, replace: true })} />
    </>
  );
}

function RoundSheet({ round }: { round: Round }) {
  const { course: wanted } = useSearch({ from: "/in/treatment-round" });
  const desk = useDesk();
  const mayRecord = useMay("record");
  const [carried, setCarried] = useState<Carried>();
  const open = round.stops.filter(atHive);
  const chosen = round.stops.find((stop) => stop.course.id === wanted);
  const at = chosen ?? (desk && wanted === undefined ? open[0] : undefined);
  const isDone = wanted !== undefined && !(chosen && atHive(chosen));
  const overview = (
    <div className="space-y-6">
      <BeforeYouGo round={round} />
      <TakeAlong round={round} />
      <Hives round={round} current={at?.course.id} />
      <BackHome round={round} />
      <DoneToday round={round} />
    </div>
  );
  const hive = mayRecord && (isDone || at) && (
    <div className="space-y-4">
      {isDone && <NextHive round={round} courseId={wanted} open={open} />}
      {at && atHive(at) && <AtTheHive stop={at} round={round} carried={carried} onRecorded={setCarried} />}
    </div>
  );
  return (
    <>
      <Breadcrumbs path={[{ name: round.apiary.name, to: "/apiaries/$id", params: { id: round.apiary.id } }]} />
      {(desk || wanted === undefined) && <Title>Treatments of the day</Title>}
      {round.stops.length + round.done.length === 0 ? (
        <NothingToday round={round} />
      ) : desk && hive ? (
        <div className="mt-5 grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] items-start gap-x-10">
          {hive}
          {overview}
        </div>
      ) : (
        <div className="mt-3">
          {wanted === undefined || !hive ? overview : hive}
          {wanted !== undefined && (
            <p className="mt-6">
              <TextLink to="/treatment-round" search={{ apiary: round.apiary.id }}>
                All hives, and what to take along
              </TextLink>
            </p>
          )}
        </div>
      )}
    </>
  );
}

function NothingToday({ round }: { round: Round }) {
  return (
    <div className="mt-5">
      <Empty title="No treatment asks for anything today.">
        <TextLink to="/treat" search={{ apiary: round.apiary.id }}>
          Choose a treatment for {round.apiary.name}
        </TextLink>
      </Empty>
    </div>
  );
}

/** The hives in the order of the round, each the way to its screen. */
function Hives({ round, current }: { round: Round; current: string | undefined }) {
  const navigate = useNavigate({ from: "/treatment-round" });
  return (
    <section aria-labelledby="hives">
      <SectionHeading id="hives">Hive by hive</SectionHeading>
      <ol>
        {round.stops
          .filter((stop) => stop.steps.length === 0 || atHive(stop))
          .map((stop) => (
            <li key={stop.course.id} className="border-b border-line">
              <button
                type="button"
                disabled={stop.steps.length === 0}
                aria-current={stop.course.id === current ? "step" : undefined}
                onClick={() => void navigate({ search: { apiary: round.apiary.id, course: stop.course.id } })}
                className={clsx(
                  "grid min-h-14 w-full grid-cols-[1.6rem_3.5rem_1fr] items-center gap-x-2 py-1 text-left",
                  stop.course.id === current && "bg-sheet shadow-[inset_3px_0_0_var(--ink)]",
                )}>
                <span className="pl-1.5">
                  <StepGlyph
                    state={stop.steps.length === 0 ? "waiting_for_weather" : stop.is_due ? "ready" : "pending"}
                  />
                </span>
                <span className="figure text-lg">{stop.course.label}</span>
                <span>
                  {stop.steps.length === 0 ? <NotToday stop={stop} today={round.today} /> : todo(stop, round.today)}
                  {stop.is_suspect && (
                    <strong className="block text-sm text-act">a suspect: last, tools of its own</strong>
                  )}
                </span>
              </button>
            </li>
          ))}
      </ol>
    </section>
  );
}

/** What is to be done at a hive, in a line. */
function todo({ course, steps, is_due: isDue }: Stop, today: string): string {
  const hive = steps.filter((name) => name !== "prepare");
  const named = (hive.length > 0 ? hive : steps)
    .map((name, index) => (index === 0 ? courseStep(name, course) : courseStep(name, course).toLowerCase()))
    .join(", then ");
  const ideal = course.steps.find((step) => step.name === steps[0])?.ideal;
  return `${named}${isDue || !ideal ? "" : `; may wait, best ${relativeDay(ideal, today)}`}`;
}

/** What the weather says against a dose today, and when it can be placed. */
function NotToday({ stop, today }: { stop: Stop; today: string }) {
  const say = useSentence();
  const waiting = stop.course.steps.find((step) => step.weather.length > 0);
  const usable = waiting?.next_usable;
  return (
    <>
      Not today. {waiting?.weather.map(say).join(". ")}.{" "}
      {usable ? `Next usable day ${shortDay(usable, today)}.` : "No usable day in the forecast."}
    </>
  );
}
