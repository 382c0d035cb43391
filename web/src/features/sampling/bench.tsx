/**
 * The count bench: several counts in a row, of whatever kind, a mite a key or tap. The rate rule moves as you count,
 * from marks that the server computed when the jar was set up, so that no signal is needed between setting up and
 * sending.
 */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { Link, useSearch } from "@tanstack/react-router";
import { useState, type ReactNode } from "react";
import { undoCount } from "@/client/commands/counts";
import { apiaryQuery, boardsQuery, placesQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { moment } from "@/ui/clock";
import { Key } from "@/ui/key-bar";
import { useKeys } from "@/ui/keys";
import { LevelMark } from "@/ui/level";
import { Loaded } from "@/ui/loaded";
import { Empty, ErrorPage, Loading, Page } from "@/ui/page";
import { Undo } from "@/ui/undo";
import { colonies } from "@/wording/words";
import { CountedToday } from "./counted-today";
import { FigureSoFar } from "./figure-so-far";
import { JarSetUp } from "./jar-set-up";
import { JarSheet } from "./jar-sheet";
import { JarTabs } from "./jar-tabs";
import { useTicking } from "./jar-timer";
import { addCell, addMite, nextShake, onBoard, oneBack, restEnds, startTimer, type Jar } from "./jars";
import { TallyKeys, keysOf, type Acts } from "./tally-keys";
import { useBench, type BenchProps, type BenchState } from "./use-bench";

export function Bench() {
  const { apiary, colonies: wanted } = useSearch({ from: "/in/bench" });
  const view = useQuery({ ...apiaryQuery(apiary ?? ""), enabled: apiary !== undefined });
  const living = (view.data?.colonies ?? []).filter((one) => one.is_living);
  const boards = useQuery({ ...boardsQuery(living.map((one) => one.id)), enabled: living.length > 0 });
  if (apiary === undefined) return <ChooseApiary />;
  if (view.isError) return <ErrorPage error={view.error} retry={() => void view.refetch()} />;
  if (view.isPending || (boards.isPending && living.length > 0)) return <Loading what="Setting out the jars …" />;
  const sampled = wanted?.length ? living.filter((one) => wanted.includes(one.id)) : living;
  if (sampled.length === 0) {
    return (
      <Page>
        <h1 className="mb-5 text-3xl">{view.data.apiary.name}</h1>
        <Empty title="No living colonies to count">Add a colony to this apiary first.</Empty>
      </Page>
    );
  }
  const key = `${apiary}-${sampled.map((one) => one.id).join()}`;
  return <JarRow key={key} view={view.data} sampled={sampled} boards={boards.data ?? []} />;
}

function ChooseApiary() {
  const apiaries = useQuery(placesQuery());
  return (
    <Loaded query={apiaries} what="Fetching the apiaries …">
      {(view) => (
        <Page>
          <h1 className="text-4xl">Count bench</h1>
          <p className="mt-1 text-ink-2">Which apiary is being counted?</p>
          <ul className="mt-5 grid gap-px border border-line bg-line desk:grid-cols-3">
            {view.places
              .filter((one) => one.colonies > 0)
              .map((one) => (
                <li key={one.id}>
                  <Link
                    to="/bench"
                    search={{ apiary: one.id }}
                    className="flex min-h-16 items-center justify-between gap-3 bg-sheet px-4 py-2 hover:bg-paper">
                    <span>
                      <span className="block font-head text-lg font-semibold leading-tight">{one.name}</span>
                      <span className="text-sm text-ink-2">
                        {one.keeper}, {colonies(one.colonies)}
                      </span>
                    </span>
                    {one.worst && <LevelMark level={one.worst} />}
                  </Link>
                </li>
              ))}
          </ul>
        </Page>
      )}
    </Loaded>
  );
}

/** Whether there is something to tally: a board must have been put in, and its picture's marks must not be open. */
const inHand = (jar: Jar): boolean => !onBoard(jar.method) || (jar.placedAt !== null && !jar.pictureOpen);
/** Whether a tap still adds a mite: what was read from a picture is changed on the picture. */
const byHand = (jar: Jar): boolean => inHand(jar) && jar.picture === null;

/** What is done with the jar in hand, by keys and by taps alike. */
function actsOf({
  onJar: onAnyJar,
  record: recordAny,
  choose,
  current,
  jars,
  already,
}: BenchState): Acts & { timer: () => void; move: (by: number) => void } {
  const move = (by: number) => choose(Math.min(Math.max(current + by, 0), jars.length - 1));
  // A colony that was counted today is counted again when the person says so, not by a key pressed on.
  const isOpen = already[current] === null;
  const onJar = (next: (jar: Jar) => Jar) => isOpen && onAnyJar(next);
  const record = () => isOpen && recordAny();
  return {
    mite: () => onJar((one) => (byHand(one) ? addMite(one, moment()) : one)),
    cell: (what) => onJar((one) => (one.method === "drone_brood" ? addCell(one, what, moment()) : one)),
    look: (seen) => onJar((one) => ({ ...one, seen, takenAt: one.takenAt ?? moment() })),
    back: () => onJar((one) => (one.picture ? one : oneBack(one))),
    part: () => onJar((one) => (byHand(one) ? nextShake(one, moment()) : one)),
    timer: () =>
      onJar((one) => {
        if (one.timer !== null) return restEnds(one, moment());
        return one.method === "sugar" || one.method === "wash" ? startTimer(one, moment()) : one;
      }),
    next: () => move(1),
    record,
    move,
  };
}

function useBenchKeys(bench: BenchState, acts: ReturnType<typeof actsOf>, onSetUp: () => void): void {
  const drones = bench.jar?.method === "drone_brood";
  useKeys([
    {
      key: " ",
      shown: "Space",
      says: drones ? "a free cell" : "one mite",
      run: () => (drones ? acts.cell("free") : acts.mite()),
    },
    { key: "i", says: "an infested drone cell", run: () => acts.cell("infested") },
    { key: "m", says: "one more mite in the cell", run: () => acts.cell("another") },
    { key: "Backspace", shown: "Backspace", says: "undo mite", run: acts.back },
    { key: "s", says: "shake again, or the next square", run: acts.part },
    { key: "t", says: "timer", run: acts.timer },
    { key: "r", says: "record the count", run: () => bench.jar && inHand(bench.jar) && acts.record() },
    { key: "ArrowRight", shown: "→", says: "next colony", run: () => acts.move(1) },
    { key: "ArrowLeft", shown: "←", says: "colony before", run: () => acts.move(-1) },
    { key: "b", says: "method and sample", run: onSetUp },
  ]);
}

function JarRow(props: BenchProps) {
  const bench = useBench(props);
  const [setUp, setSetUp] = useState(false);
  const acts = actsOf(bench);
  useBenchKeys(bench, acts, () => setSetUp(true));
  const now = useTicking(bench.jars.some((one) => one.timer !== null));
  const { view, jar, session } = bench;
  const already = bench.already[bench.current] ?? null;
  if (!jar) return null;
  return (
    <main id="main" className="mx-auto flex w-full max-w-[1400px] flex-1 flex-col">
      <BenchHead bench={bench} />
      <JarTabs bench={bench} now={now} />
      <div className="grid flex-1 gap-x-12 px-4 desk:grid-cols-[minmax(0,1fr)_24rem] desk:px-7">
        {already ? (
          <CountedToday count={already} label={jar.label} today={view.today} />
        ) : (
          <JarSheet
            jar={jar}
            apiaryId={view.apiary.id}
            meaning={bench.results[jar.id]}
            queenSeenToday={view.queens_seen_today.includes(jar.colonyId)}
            units={session.person}
            today={view.today}
            now={now}
            onSetUp={() => setSetUp(true)}
            onChange={bench.onJar}
            onPlace={bench.placeBoard}
          />
        )}
        <Foot bench={bench} jar={jar} acts={acts} now={now} />
      </div>
      {setUp && (
        <JarSetUp
          jar={jar}
          units={session.person}
          onClose={() => setSetUp(false)}
          onKeep={(next, all) => {
            bench.setUp(next, all);
            setSetUp(false);
          }}
        />
      )}
    </main>
  );
}

function BenchHead({ bench }: { bench: BenchState }) {
  const { apiary } = bench.view;
  const recorded = bench.states.filter((one) => one.state === "recorded").length;
  const waiting = bench.states.some((one) => one.state === "queued" && one.why !== "");
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-4 px-4 pt-2 desk:px-7 desk:pt-3">
      <h1 className={apiary.name.length > 40 ? "text-lg" : "text-2xl desk:text-3xl"}>
        <Link to="/apiaries/$id" params={{ id: apiary.id }} className="hover:underline">
          {apiary.name}
        </Link>
      </h1>
      <p className="shrink-0 text-sm text-ink-2" role="status">
        {recorded} recorded of {bench.jars.length}
        {waiting ? ", waiting for a connection" : ", all saved on this device"}
      </p>
    </div>
  );
}

/** What stands where the thumb is: the tally's keys, or after a count the way on. */
function Foot({ bench, jar, acts, now }: { bench: BenchState; jar: Jar; acts: Acts; now: string }) {
  const state = bench.states[bench.current] ?? { state: "open", why: "" };
  const last = bench.current >= bench.jars.length - 1;
  const meaning = bench.results[jar.id];
  const already = bench.already[bench.current] !== null;
  const shown = meaning || inHand(jar) || state.state === "refused";
  return (
    <div
      className={clsx(
        "sticky bottom-0 -mx-4 mt-auto border-t border-line bg-paper p-3 desk:static desk:mx-0 desk:mt-5",
        "desk:block desk:border-0 desk:p-0",
        !shown && "hidden",
      )}>
      {meaning || already ? (
        <WayOn bench={bench} last={last} onNext={acts.next}>
          {already && <Button onClick={bench.countAgain}>Count {jar.label} again</Button>}
          {meaning?.count.may_undo && (
            <Undo label={`Undo the count of ${jar.label}`} undo={() => undoCount(jar.id)} onUndone={bench.reopen} />
          )}
        </WayOn>
      ) : (
        inHand(jar) && (
          <>
            <FigureSoFar jar={jar} apiaryId={bench.view.apiary.id} now={now} />
            <TallyKeys jar={jar} state={state} last={last} acts={acts} />
          </>
        )
      )}
      {(state.state === "queued" || state.state === "refused") && state.why && (
        <p role="alert" className="mt-2 font-semibold text-act">
          {state.why} {state.state === "queued" && "It is saved on this device and sent again."}
        </p>
      )}
      <p className="mt-3 hidden flex-wrap gap-x-4 gap-y-1 text-sm text-ink-2 desk:flex">
        {keysOf(jar).map(([key, says]) => (
          <span key={key}>
            <Key>{key}</Key> {says}
          </span>
        ))}
      </p>
    </div>
  );
}

type WayOnProps = { bench: BenchState; last: boolean; onNext: () => void; children: ReactNode };

function WayOn({ bench, last, onNext, children }: WayOnProps) {
  const { apiary } = bench.view;
  return (
    <div className="grid gap-2">
      {last ? (
        <Link
          to="/apiaries/$id"
          params={{ id: apiary.id }}
          className="inline-flex min-h-20 items-center justify-center bg-ink px-4 text-lg font-semibold text-sheet">
          Back to {apiary.name}
        </Link>
      ) : (
        <Button variant="main" big className="min-h-20" onClick={onNext}>
          Next: {bench.jars[bench.current + 1]?.label}
        </Button>
      )}
      {children}
    </div>
  );
}
