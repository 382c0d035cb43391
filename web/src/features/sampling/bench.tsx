/**
 * The count bench: several counts in a row, of whatever kind, a mite a key or tap. The rate rule moves as you count, from
 * marks that the server computed when the jar was set up, so that no signal is needed between setting up and sending.
 */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import { api, ask } from "@/client/api";
import { Problem, type Schemas } from "@/client/types";
import { apiaryQuery, boardsQuery, apiariesQuery } from "@/client/queries";
import { useSession } from "@/features/session/use-session";
import { keepDraft, readDraft } from "@/ui/drafts";
import { moment } from "@/ui/clock";
import { useKeys } from "@/ui/keys";
import { Button } from "@/ui/button";
import { Key } from "@/ui/key-bar";
import { LEVEL_TEXT, LevelMark } from "@/ui/level";
import { Empty, ErrorPage, Loading, Page } from "@/ui/page";
import { colonies, levelWord } from "@/wording/words";
import { JarSetUp } from "./jar-set-up";
import { JarSheet } from "./jar-sheet";
import { minutes, useTicking } from "./jar-timer";
import {
  USUAL,
  addCell,
  addMite,
  asCount,
  begun,
  mitesIn,
  newJar,
  nextShake,
  onBoard,
  oneBack,
  restEnds,
  secondsLeft,
  startTimer,
  type Jar,
  type SetUp,
  type Answer,
  type Method,
} from "./jars";
import { TallyKeys, keysOf } from "./tally-keys";

export function Bench() {
  const { apiary, colonies: wanted } = useSearch({ from: "/in/bench" });
  const view = useQuery({ ...apiaryQuery(apiary ?? ""), enabled: apiary !== undefined });
  const ids = (view.data?.colonies ?? []).filter((one) => one.is_living).map((one) => one.id);
  const boards = useQuery({ ...boardsQuery(ids), enabled: ids.length > 0 });
  if (apiary === undefined) return <ChooseApiary />;
  if (view.isPending) return <Loading what="Setting out the jars …" />;
  if (view.isError) return <ErrorPage error={view.error} retry={() => void view.refetch()} />;
  const living = view.data.colonies.filter((one) => one.is_living);
  const sampled = wanted?.length ? living.filter((one) => wanted.includes(one.id)) : living;
  if (boards.isPending && living.length > 0) return <Loading what="Setting out the jars …" />;
  if (sampled.length === 0) {
    return (
      <Page>
        <h1 className="mb-5 text-3xl">{view.data.apiary.name}</h1>
        <Empty title="No living colonies to count">Add a colony to this apiary first.</Empty>
      </Page>
    );
  }
  return (
    <JarRow
      key={`${apiary}-${sampled.map((one) => one.id).join()}`}
      view={view.data}
      sampled={sampled}
      boards={boards.data ?? []}
    />
  );
}

function ChooseApiary() {
  const places = useQuery(apiariesQuery);
  if (places.isPending) return <Loading what="Fetching the apiaries …" />;
  if (places.isError) return <ErrorPage error={places.error} retry={() => void places.refetch()} />;
  return (
    <Page>
      <h1 className="text-4xl">Count bench</h1>
      <p className="mt-1 text-ink-2">Which apiary is being counted?</p>
      <ul className="mt-5 grid gap-px border border-line bg-line desk:grid-cols-3">
        {places.data.apiaries
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
  );
}

/** Whether there is something to tally: a board must have been put in, and its picture's marks must not be open. */
const inHand = (jar: Jar): boolean => !onBoard(jar.method) || (jar.placedAt !== null && !jar.pictureOpen);
/** Whether a tap still adds a mite: what was read from a picture is changed on the picture. */
const byHand = (jar: Jar): boolean => inHand(jar) && jar.picture === null;

type Draft = { jars: Jar[]; current: number };

/** A board under a colony is what its count is about: when it was put in, and what was said of it then. */
function withBoard(jar: Jar, boards: Schemas["InsertBoard"][]): Jar {
  const lying = boards.find((one) => one.colony_id === jar.colonyId);
  if (!lying || !onBoard(jar.method) || jar.placedAt !== null) return jar;
  return { ...jar, placedAt: lying.placed_at, boardId: lying.id, cleaned: lying.cleaned, greased: lying.greased };
}

function JarRow({
  view,
  sampled,
  boards,
}: {
  view: Schemas["ApiaryView"];
  sampled: Schemas["ColonyOverview"][];
  boards: Schemas["InsertBoard"][];
}) {
  const session = useSession();
  const client = useQueryClient();
  const navigate = useNavigate();
  const { course, step, method, purpose } = useSearch({ from: "/in/bench" });
  const draftKey = `bench:${session.person.id}:${view.apiary.id}:${view.today}`;
  const [draft, setDraft] = useState<Draft>(() => {
    const kept = readDraft<Draft>(draftKey);
    const usual = {
      ...(readDraft<SetUp>("bench-usual") ?? USUAL),
      ...(method ? { method } : {}),
      ...(course ? { method: "wash" as Method } : {}),
    };
    const jars = sampled.map((one) => {
      const old = kept?.jars.find(
        (jar) =>
          jar.colonyId === one.id &&
          jar.sending.state !== "kept" &&
          "method" in jar &&
          (!method || jar.method === method || begun(jar)),
      );
      const onPurpose = purpose?.includes(one.id) ?? false;
      return old
        ? {
            ...old,
            label: one.label,
            onPurpose,
            sending: old.sending.state === "sending" ? ({ state: "waiting", why: "" } as const) : old.sending,
          }
        : withBoard({ ...newJar(one.id, one.label, usual), onPurpose }, boards);
    });
    return { jars, current: 0 };
  });
  const [setUp, setSetUp] = useState(false);
  const [results, setResults] = useState<Record<string, Schemas["CountMeaning"]>>({});
  const latest = useRef(draft);
  useEffect(() => {
    latest.current = draft;
    keepDraft(draftKey, draft);
  }, [draft, draftKey]);

  const jar = draft.jars[draft.current] ?? draft.jars[0];
  const change = (index: number, next: (jar: Jar) => Jar) =>
    setDraft((old) => ({ ...old, jars: old.jars.map((one, at) => (at === index ? next(one) : one)) }));
  const choose = (index: number) => setDraft((old) => ({ ...old, current: index }));
  const onJar = (next: (jar: Jar) => Jar) => {
    if (jar && (jar.sending.state === "open" || jar.sending.state === "refused" || jar.sending.state === "waiting")) {
      change(draft.current, (one) => ({ ...next(one), sending: { state: "open" } }));
    }
  };
  const now = moment;
  const ticks = useTicking(draft.jars.some((one) => one.timer !== null));

  const send = async (index: number) => {
    const one = latest.current.jars[index];
    if (!one || one.sending.state === "sending" || one.sending.state === "kept") return;
    change(index, (old) => ({ ...old, takenAt: old.takenAt ?? now(), sending: { state: "sending" } }));
    try {
      const meaning = await ask(api.POST("/api/v1/counts", { body: asCount(one) }));
      setResults((old) => ({ ...old, [one.id]: meaning }));
      change(index, (old) => ({ ...old, sending: { state: "kept" } }));
      void client.invalidateQueries({
        predicate: (query) =>
          query.queryKey[0] !== "ruler" && query.queryKey[0] !== "session" && query.queryKey[0] !== "apiary",
      });
      // The last jar of a check count leads back to its course, where the counts are waiting.
      const alone = latest.current.jars.length === 1;
      const done = latest.current.jars.every((each) => each.id === one.id || each.sending.state === "kept");
      if (course && step && done)
        void navigate({
          to: "/courses/$id",
          params: { id: course },
          search: { step, ...(alone ? { count: meaning.count.id } : {}) },
        });
    } catch (error) {
      const problem = error instanceof Problem ? error : null;
      const waits = problem === null || problem.status === 0 || problem.status >= 500;
      const why = problem?.faults[0]?.message ?? problem?.message ?? "It could not be sent.";
      change(index, (old) => ({ ...old, sending: waits ? { state: "waiting", why } : { state: "refused", why } }));
    }
  };

  // A count that found no connection is sent again, under the same id, as soon as there is one.
  useEffect(() => {
    const again = () =>
      latest.current.jars.forEach((one, index) => one.sending.state === "waiting" && void send(index));
    window.addEventListener("online", again);
    const timer = window.setInterval(again, 15_000);
    return () => {
      window.removeEventListener("online", again);
      window.clearInterval(timer);
    };
  });

  const lay = async (index: number, cleaned: Answer, greased: Answer) => {
    const one = latest.current.jars[index];
    if (!one || one.sending.state === "sending") return;
    change(index, (old) => ({ ...old, sending: { state: "sending" } }));
    try {
      const laid = await ask(
        api.POST("/api/v1/boards", {
          body: { id: one.id, colony_id: one.colonyId, placed_at: now(), cleaned, greased },
        }),
      );
      await client.invalidateQueries({ queryKey: ["boards"] });
      change(index, (old) => ({
        ...withBoard({ ...old, id: crypto.randomUUID() }, [laid]),
        sending: { state: "open" },
      }));
    } catch (error) {
      const why = error instanceof Problem ? (error.faults[0]?.message ?? error.message) : "It could not be sent.";
      change(index, (old) => ({ ...old, sending: { state: "refused", why } }));
    }
  };

  const move = (by: number) => choose(Math.min(Math.max(draft.current + by, 0), draft.jars.length - 1));
  const counting = jar !== undefined && jar.sending.state !== "kept" && jar.sending.state !== "sending";
  useKeys([
    {
      key: " ",
      shown: "Space",
      says: jar?.method === "drone_brood" ? "a free cell" : "one mite",
      run: () =>
        onJar((one) =>
          one.method === "drone_brood" ? addCell(one, "free", now()) : byHand(one) ? addMite(one, now()) : one,
        ),
    },
    {
      key: "i",
      says: "an infested drone cell",
      run: () => onJar((one) => (one.method === "drone_brood" ? addCell(one, "infested", now()) : one)),
    },
    {
      key: "m",
      says: "one more mite in the cell",
      run: () => onJar((one) => (one.method === "drone_brood" ? addCell(one, "another", now()) : one)),
    },
    {
      key: "Backspace",
      shown: "Backspace",
      says: "one step back",
      run: () => onJar((one) => (one.picture ? one : oneBack(one))),
    },
    {
      key: "s",
      says: "shake again, or the next square",
      run: () => onJar((one) => (byHand(one) ? nextShake(one, now()) : one)),
    },
    {
      key: "t",
      says: "timer",
      run: () =>
        onJar((one) =>
          one.timer === null
            ? one.method === "sugar" || one.method === "wash"
              ? startTimer(one, now())
              : one
            : restEnds(one, now()),
        ),
    },
    { key: "r", says: "record the count", run: () => jar && inHand(jar) && void send(draft.current) },
    { key: "ArrowRight", shown: "→", says: "next colony", run: () => move(1) },
    { key: "ArrowLeft", shown: "←", says: "jar before", run: () => move(-1) },
    { key: "b", says: "set up the jar", run: () => setSetUp(true) },
  ]);
  if (!jar) return null;
  const acts = {
    mite: () => onJar((one) => (byHand(one) ? addMite(one, now()) : one)),
    cell: (what: "free" | "infested" | "another") => onJar((one) => addCell(one, what, now())),
    look: (seen: boolean) => onJar((one) => ({ ...one, seen, takenAt: one.takenAt ?? now() })),
    back: () => onJar(oneBack),
    part: () => onJar((one) => nextShake(one, now())),
    next: () => move(1),
    record: () => void send(draft.current),
  };
  const kept = draft.jars.filter((one) => one.sending.state === "kept").length;
  const meaning = results[jar.id];
  return (
    <main id="main" className="mx-auto flex w-full max-w-[1400px] flex-1 flex-col">
      <div className="items-baseline justify-between gap-4 px-4 pt-3 desk:flex desk:px-7">
        <h1 className={view.apiary.name.length > 40 ? "text-lg" : "text-2xl desk:text-3xl"}>
          <Link to="/apiaries/$id" params={{ id: view.apiary.id }} className="hover:underline">
            {view.apiary.name}
          </Link>
        </h1>
        <p className="shrink-0 text-sm text-ink-2" role="status">
          {kept} recorded of {draft.jars.length}
          {draft.jars.some((one) => one.sending.state === "waiting")
            ? ", waiting for a connection"
            : ", all saved on this device"}
        </p>
      </div>
      <JarTabs jars={draft.jars} current={draft.current} onChoose={choose} results={results} now={ticks} />
      <div className="grid flex-1 gap-x-12 px-4 desk:grid-cols-[minmax(0,1fr)_24rem] desk:px-7">
        <JarSheet
          jar={jar}
          apiaryId={view.apiary.id}
          meaning={meaning}
          units={session.person}
          today={view.today}
          now={ticks}
          onSetUp={() => setSetUp(true)}
          onChange={onJar}
          onPlace={(cleaned, greased) => void lay(draft.current, cleaned, greased)}
        />
        <div
          className={`sticky bottom-0 -mx-4 mt-auto border-t border-line bg-paper p-3 desk:static desk:mx-0 desk:mt-5 desk:block desk:border-0 desk:p-0 ${meaning || inHand(jar) || jar.sending.state === "refused" ? "" : "hidden"}`}>
          {meaning ? (
            <div className="grid gap-2">
              {draft.current < draft.jars.length - 1 ? (
                <Button variant="main" big className="min-h-20" onClick={() => move(1)}>
                  Next: {draft.jars[draft.current + 1]?.label}
                </Button>
              ) : (
                <Link
                  to="/apiaries/$id"
                  params={{ id: view.apiary.id }}
                  className="inline-flex min-h-20 items-center justify-center bg-ink px-4 text-lg font-semibold text-sheet">
                  Back to {view.apiary.name}
                </Link>
              )}
            </div>
          ) : (
            inHand(jar) && (
              <TallyKeys jar={jar} counting={counting} last={draft.current >= draft.jars.length - 1} acts={acts} />
            )
          )}
          {(jar.sending.state === "waiting" || jar.sending.state === "refused") && jar.sending.why && (
            <p role="alert" className="mt-2 font-semibold text-act">
              {jar.sending.why} {jar.sending.state === "waiting" && "It is kept on this device and sent again."}
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
      </div>
      {setUp && (
        <JarSetUp
          jar={jar}
          units={session.person}
          onClose={() => setSetUp(false)}
          onKeep={(next, all) => {
            keepDraft("bench-usual", { ...next, queen: "not_looked" });
            const { queen, ...rest } = next;
            setDraft((old) => ({
              ...old,
              jars: old.jars.map((one, at) => {
                if (at === old.current)
                  return withBoard(
                    { ...one, ...next, sending: one.sending.state === "refused" ? { state: "open" } : one.sending },
                    boards,
                  );
                return all && one.sending.state === "open" && (one.method === rest.method || !begun(one))
                  ? withBoard({ ...one, ...rest }, boards)
                  : one;
              }),
            }));
            void queen;
            setSetUp(false);
          }}
        />
      )}
    </main>
  );
}

function JarTabs({
  jars,
  current,
  onChoose,
  results,
  now,
}: {
  jars: Jar[];
  current: number;
  onChoose: (index: number) => void;
  results: Record<string, Schemas["CountMeaning"]>;
  now: string;
}) {
  return (
    <div
      role="tablist"
      aria-label="Jars"
      className="mt-2 grid auto-cols-[minmax(5.5rem,1fr)] grid-flow-col overflow-x-auto border-y border-line bg-paper desk:mx-7 desk:border-x">
      {jars.map((jar, index) => {
        const judged = results[jar.id]?.judgement;
        const level = judged?.level;
        const said = saidOf(jar, judged ? levelWord(judged.level, judged.scheme) : undefined, now);
        return (
          <button
            key={jar.id}
            type="button"
            role="tab"
            id={`tab-${jar.id}`}
            ref={index === current ? (tab) => tab?.scrollIntoView({ block: "nearest", inline: "nearest" }) : null}
            aria-selected={index === current}
            aria-controls="jar"
            tabIndex={index === current ? 0 : -1}
            data-keys="through"
            onClick={() => onChoose(index)}
            className={`min-h-16 border-r border-line px-2 py-1 text-center last:border-r-0 ${index === current ? "bg-sheet shadow-[inset_0_4px_0_var(--ink)]" : "text-ink-2"}`}>
            <span className={`figure block ${jar.label.length > 8 ? "text-base" : "text-xl"}`}>{jar.label}</span>
            <span className={`text-sm ${level ? LEVEL_TEXT[level] : ""}`}>{said}</span>
          </button>
        );
      })}
    </div>
  );
}

function saidOf(jar: Jar, level: string | undefined, now: string): string {
  const left = secondsLeft(jar, now);
  if (jar.sending.state === "kept") return level ?? "kept";
  if (jar.sending.state === "waiting") return "waiting";
  if (jar.sending.state === "refused") return "look again";
  if (left !== null) return left === 0 ? "time is up" : `${jar.method === "sugar" ? "rest" : "shake"} ${minutes(left)}`;
  if (jar.method === "drone_brood" && jar.opened > 0) return `${jar.infested} of ${jar.opened}`;
  if (begun(jar)) return `${mitesIn(jar)} mites`;
  if (onBoard(jar.method)) return jar.placedAt ? "board is in" : "no board";
  return "not yet";
}
