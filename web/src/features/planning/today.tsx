/**
 * Today: one row an apiary, the one whose work must begin first on top. Beside the rows: why it comes there, what is
 * to be done, what to take along.
 */
import { clsx } from "clsx";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useEffect, useRef } from "react";
import { worklistQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { OpenCases } from "@/features/cases/open-cases";
import { PestsDue } from "@/features/pests/pests-due";
import { UnreadDead } from "@/features/deadouts/unread";
import { Guide } from "@/features/guide/guide";
import { Term } from "@/features/help/term";
import { daysBetween, plural, weekday } from "@/ui/dates";
import { KeyBar } from "@/ui/key-bar";
import { useKeys } from "@/ui/keys";
import { LevelMark } from "@/ui/level";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { useLongList, useLookFor, useMore } from "@/ui/long-list";
import { Empty, Page } from "@/ui/page";
import { useDesk } from "@/ui/use-desk";
import { PHASE, unitOf } from "@/wording/words";
import { ApiaryRow, COLUMNS } from "./apiary-row";
import { Alarms } from "./alarms";
import { ApiaryWork } from "./apiary-work";
import { linesAt } from "./lines";

type Work = Schemas["WorklistView"];
const ROW_PX = 66;

export function Today() {
  const query = useInfiniteQuery(worklistQuery);
  const more = useMore(query);
  return (
    <Loaded query={query} what="Looking up what is due …">
      {(work) => <TodaySheet work={work} more={more} />}
    </Loaded>
  );
}

/** The apiary that is looked at: it stands in the address, j and k move it, Return opens its first work. */
function useChosen(work: Work, more: (() => void) | undefined) {
  const { at } = useSearch({ from: "/in/" });
  const navigate = useNavigate();
  const found = work.work.findIndex((one) => one.apiary_id === at);
  useLookFor(at !== undefined && found < 0, work.work.length, more);
  const index = Math.max(0, found);
  const rows = useLongList<HTMLOListElement>({ count: work.work.length, estimate: ROW_PX, current: index, more });
  // The row that a key has moved to takes the focus as soon as it is drawn.
  const wanted = useRef<string | null>(null);
  useEffect(() => {
    const row = wanted.current && document.getElementById(wanted.current);
    if (!row) return;
    wanted.current = null;
    row.focus({ preventScroll: true });
  });
  const choose = (next: number) => {
    const one = work.work[next];
    if (one) void navigate({ to: "/", search: { at: one.apiary_id }, replace: true, resetScroll: false });
  };
  const move = (step: number) => {
    const next = Math.min(Math.max(index + step, 0), work.work.length - 1);
    choose(next);
    wanted.current = `apiary-${next}`;
  };
  const open = () => {
    const one = work.work[index];
    const line = one && linesAt(work, one)[0];
    if (line) void navigate(line.link);
  };
  useKeys(
    [
      { key: "j", says: "next apiary", run: () => move(1) },
      { key: "k", says: "apiary before", run: () => move(-1) },
      { key: "Enter", shown: "Return", says: "open its first work", run: open },
    ],
    work.work.length > 0,
  );
  return { index, choose, rows };
}

function TodaySheet({ work, more }: { work: Work; more: (() => void) | undefined }) {
  const chosen = useChosen(work, more);
  return (
    <>
      <Page>
        <div className="flex flex-wrap items-end justify-between gap-x-8 gap-y-2">
          <h1 className="text-3xl desk:text-4xl">{weekday(work.today)}</h1>
          <Season work={work} />
        </div>
        <Alarms alarms={work.alarms} today={work.today} />
        <OpenCases />
        <UnreadDead />
        <PestsDue today={work.today} />
        <Guide />
        {work.work.length > 0 ? <Rows work={work} {...chosen} /> : <NothingDue colonies={work.colonies} />}
      </Page>
      <KeyBar
        keys={[
          ["j", "next"],
          ["k", "before"],
          ["Return", "its first work"],
          ["?", "all keys"],
        ]}>
        <Legend />
      </KeyBar>
    </>
  );
}

function Season({ work }: { work: Work }) {
  return (
    <p className="text-ink-2">
      <Term id="phase">Season</Term>: <strong className="text-ink">{PHASE[work.phase]}</strong>.{" "}
      <Term id="act_level">Act at</Term>{" "}
      <strong className="text-ink">
        {work.act_at} {unitOf(work.scheme)}
      </strong>
      .
      {work.winter_bees && (
        <>
          {" "}
          <Term id="winter_bees">First winter bees</Term>
          {" in "}
          <strong className="text-ink">{plural(daysBetween(work.today, work.winter_bees), "day")}</strong>.
        </>
      )}
    </p>
  );
}

function Rows({ work, index, choose, rows }: { work: Work } & ReturnType<typeof useChosen>) {
  const desk = useDesk();
  const chosen = work.work[index];
  const idle = work.apiaries - work.with_work;
  const detail = chosen && <ApiaryWork key={chosen.apiary_id} work={work} apiary={chosen} first={index === 0} />;
  return (
    <div className="mt-5 grid grid-cols-[minmax(0,1fr)] items-start gap-x-9 desk:grid-cols-[minmax(0,1fr)_22rem]">
      <div>
        <div
          aria-hidden="true"
          className={clsx(COLUMNS, "hidden gap-x-4 border-b-2 border-ink pb-1 pl-3 text-sm desk:grid")}>
          <span>begin by</span>
          <span>apiary</span>
          <span>{unitOf(work.scheme)}, each colony</span>
          <span>to do there</span>
        </div>
        <ol
          ref={rows.container}
          aria-label="Apiaries, the one whose work must begin first on top"
          style={{ paddingTop: rows.before, paddingBottom: rows.after }}>
          {rows.drawn.map((at) => {
            const one = work.work[at];
            return (
              one && (
                <ApiaryRow
                  key={one.apiary_id}
                  id={`apiary-${at}`}
                  place={{ index: at, of: work.with_work, measure: rows.measure }}
                  work={work}
                  apiary={one}
                  ticks={at === 0}
                  chosen={at === index}
                  onChoose={() => choose(at)}>
                  {!desk && at === index && detail}
                </ApiaryRow>
              )
            );
          })}
        </ol>
        <p className="mt-3 text-sm text-ink-2 desk:hidden">
          <Legend />
        </p>
        <p className="mt-3 text-ink-2">
          {idle > 0 && `Nothing is due at ${plural(idle, "more apiary", "more apiaries")}. `}
          <TextLink to="/apiaries">All apiaries</TextLink>
        </p>
      </div>
      {desk && <aside className="sticky top-16 border-t-2 border-ink pt-3">{detail}</aside>}
    </div>
  );
}

function Legend() {
  return (
    <span className="inline-flex flex-wrap items-center gap-x-3">
      {(
        [
          ["clear", "clear"],
          ["watch", "watch"],
          ["act", "act"],
          ["urgent", "urgent"],
          ["unknown", "not known"],
        ] as const
      ).map(([level, name]) => (
        <span key={level} className="inline-flex items-center gap-1">
          <LevelMark level={level} size={13} /> {name}
        </span>
      ))}
      <span>notch: act level; hatched: count too old</span>
    </span>
  );
}

function NothingDue({ colonies }: { colonies: number }) {
  if (colonies === 0)
    return (
      <div className="mt-8">
        <Empty title="No colonies yet">
          Add your first apiary and its colonies; what is due for them will stand here every day.{" "}
          <TextLink to="/apiaries">Go to the apiaries</TextLink>
        </Empty>
      </div>
    );
  return (
    <div className="mt-8 border-t border-line pt-8">
      <h2 className="text-2xl">Nothing is due.</h2>
      <p className="mt-2 text-ink-2">
        Every colony has been counted, and no course waits for a step.{" "}
        <TextLink to="/apiaries">Look over the apiaries.</TextLink>
      </p>
    </div>
  );
}
