/**
 * The bench's state: the jars as they are counted, saved at every tap; what is given to be sent goes into the queue,
 * and comes back as what it means.
 */
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import type { Item } from "@/sync/queue";
import type { Listener, Sync } from "@/sync/sync";
import { useSync, useSyncListener, useUnsent } from "@/sync/use-sync";
import { moment } from "@/ui/clock";
import { keepDraft, readDraft } from "@/ui/drafts";
import {
  USUAL,
  asCount,
  begun,
  countedToday,
  newJar,
  onBoard,
  type Answer,
  type CountState,
  type Jar,
  type Method,
  type SetUp,
} from "./jars";

type Draft = { jars: Jar[]; current: number };
type Meaning = Schemas["CountMeaning"];
type Board = Schemas["InsertBoard"];
export type BenchState = ReturnType<typeof useBench>;
export type BenchProps = { view: Schemas["ApiaryView"]; sampled: Schemas["ColonyOverview"][]; boards: Board[] };

const countKey = (jar: Jar) => `count:${jar.id}`;
const boardKey = (jar: Jar) => `board:${jar.id}`;

/** A board under a colony is what its count is about: when it was put in, and what was said of it then. */
function withBoard(jar: Jar, boards: Board[]): Jar {
  const placed = boards.find((one) => one.colony_id === jar.colonyId);
  if (!placed || !onBoard(jar.method) || jar.placedAt !== null) return jar;
  return { ...jar, placedAt: placed.placed_at, boardId: placed.id, cleaned: placed.cleaned, greased: placed.greased };
}

/** What became of a jar's count, or of its board on the way. */
export function stateOf(jar: Jar, items: Readonly<Record<string, Item>>): CountState {
  if (jar.recorded) return { state: "recorded", why: "" };
  const item = items[countKey(jar)] ?? items[boardKey(jar)];
  if (item === undefined) return { state: "open", why: "" };
  return { state: item.state === "conflict" ? "refused" : item.state, why: item.why };
}

/** The jars to begin with: those in hand when the page was left, others new; one that was sent meanwhile is done. */
function beginning({ view, sampled, boards }: BenchProps, kept: Draft | null, wanted: Wanted, sync: Sync): Draft {
  const usual: Partial<SetUp> = {
    ...(readDraft<SetUp>("bench-usual") ?? USUAL),
    ...(wanted.method ? { method: wanted.method } : {}),
    ...(wanted.course ? { method: "wash" } : {}),
  };
  const queued = sync.read();
  const inHand = (jar: Jar) =>
    !jar.recorded &&
    (!jar.submitted || queued[countKey(jar)] !== undefined) &&
    (!wanted.method || jar.method === wanted.method || begun(jar));
  const jars = sampled.map((one) => {
    const targeted = wanted.purpose?.includes(one.id) ?? false;
    const old = kept?.jars.find((jar) => jar.colonyId === one.id && inHand(jar));
    return old
      ? { ...old, label: one.label, targeted }
      : withBoard({ ...newJar(one.id, one.label, usual), targeted, again: wanted.course !== undefined }, boards);
  });
  const first = jars.findIndex((jar) => countedToday(jar, view.counts, view.today) === null);
  return { jars, current: Math.max(0, first) };
}

type Wanted = { course?: string | undefined; method?: Method | undefined; purpose?: string[] | undefined };

export function useBench(props: BenchProps) {
  const { view, boards } = props;
  const session = useSession();
  const wanted = useSearch({ from: "/in/bench" });
  const sync = useSync();
  const scope = `bench:${view.apiary.id}`;
  const items = useUnsent(scope);
  const draftKey = `bench:${session.person.id}:${view.apiary.id}:${view.today}`;
  const [draft, setDraft] = useState<Draft>(() => beginning(props, readDraft<Draft>(draftKey), wanted, sync));
  const [results, setResults] = useState<Record<string, Meaning>>({});
  const latest = useRef(draft);
  useEffect(() => {
    latest.current = draft;
    keepDraft(draftKey, draft);
  }, [draft, draftKey]);

  const jar = draft.jars[draft.current] ?? draft.jars[0];
  const change = useCallback(
    (fits: (jar: Jar) => boolean, next: (jar: Jar) => Jar) =>
      setDraft((old) => ({ ...old, jars: old.jars.map((one) => (fits(one) ? next(one) : one)) })),
    [],
  );
  const recorded = useCallback(
    (id: string, meaning: Meaning) => {
      setResults((old) => ({ ...old, [id]: meaning }));
      change(
        (one) => one.id === id,
        (one) => ({ ...one, recorded: true }),
      );
    },
    [change],
  );
  const placed = useCallback(
    (board: Board) =>
      change(
        (one) => one.id === board.id,
        (one) => withBoard({ ...one, id: crypto.randomUUID() }, [board]),
      ),
    [change],
  );
  useAnswers(scope, latest, recorded, placed);

  const choose = (index: number) => setDraft((old) => ({ ...old, current: index }));
  /** Change the jar in hand; one that waits to be sent is taken back, one on its way or recorded stays. */
  const onJar = (next: (jar: Jar) => Jar) => {
    if (!jar || ["recorded", "sending"].includes(stateOf(jar, items).state)) return;
    sync.dispatch({ type: "withdrawn", key: countKey(jar) });
    change(
      (one) => one.id === jar.id,
      (one) => ({ ...next(one), submitted: false }),
    );
  };
  /** The count in hand was undone: its marks are open again, for a count of its own. */
  const reopen = () => {
    if (!jar) return;
    change(
      (one) => one.id === jar.id,
      (one) => ({ ...one, id: crypto.randomUUID(), submitted: false, recorded: false, again: true }),
    );
  };
  const submit = (kind: "count" | "board", key: string, content: unknown) => {
    sync.dispatch({ type: "recorded", key, kind, scope, content, base: 0 });
    void sync.pump();
  };
  const record = () => {
    if (!jar || ["recorded", "sending"].includes(stateOf(jar, items).state)) return;
    const taken: Jar = { ...jar, takenAt: jar.takenAt ?? moment(), submitted: true };
    change(
      (one) => one.id === jar.id,
      () => taken,
    );
    submit("count", countKey(jar), asCount(taken));
  };
  const placeBoard = (cleaned: Answer, greased: Answer) => {
    if (!jar) return;
    const board = { id: jar.id, colony_id: jar.colonyId, placed_at: moment(), cleaned, greased };
    submit("board", boardKey(jar), board);
  };
  /** The method and sample of the jar in hand, or of all that are not begun. */
  const setUp = (next: SetUp, all: boolean) => {
    keepDraft("bench-usual", { ...next, queen: "not_looked" });
    const usual: Partial<SetUp> = { ...next };
    delete usual.queen;
    onJar((one) => withBoard({ ...one, ...next }, boards));
    if (all)
      change(
        (one) => one.id !== jar?.id && !one.submitted && !one.recorded && (one.method === next.method || !begun(one)),
        (one) => withBoard({ ...one, ...usual }, boards),
      );
  };
  const states = draft.jars.map((one) => stateOf(one, items));
  /** What was counted today already, of each jar that would only repeat it. */
  const already = draft.jars.map((one) => countedToday(one, view.counts, view.today));
  const countAgain = () => onJar((one) => ({ ...one, again: true }));
  return {
    ...draft,
    view,
    session,
    jar,
    states,
    already,
    countAgain,
    reopen,
    results,
    choose,
    onJar,
    record,
    placeBoard,
    setUp,
  };
}

/** Hears what the server says to counts and boards of this bench. */
function useAnswers(
  scope: string,
  latest: { current: Draft },
  recorded: (id: string, meaning: Meaning) => void,
  placed: (board: Board) => void,
): void {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { course, step } = useSearch({ from: "/in/bench" });
  const heard: Listener = useCallback(
    (event, item, answer) => {
      if (event.type !== "sent") return;
      if (item?.kind === "board") {
        void client.invalidateQueries({ queryKey: ["boards"] }).then(() => placed(answer as Board));
        return;
      }
      const meaning = answer as Meaning;
      const { jars } = latest.current;
      const done = jars.every((one) => one.id === meaning.count.id || one.recorded);
      recorded(meaning.count.id, meaning);
      void client.invalidateQueries({
        predicate: (query) => !["ruler", "session", "apiary"].includes(String(query.queryKey[0])),
      });
      // The last jar of a check count leads back to its course, where the counts are waiting.
      if (course && step && done) {
        const search = { step, ...(jars.length === 1 ? { count: meaning.count.id } : {}) };
        void navigate({ to: "/courses/$id", params: { id: course }, search });
      }
    },
    [client, navigate, course, step, latest, recorded, placed],
  );
  useSyncListener(scope, heard);
}
