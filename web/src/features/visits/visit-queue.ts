/**
 * A visit is recorded piece by piece: shown at once from this device, saved here at every tap, sent behind the hand. A
 * piece that somebody else recorded meanwhile is a conflict, shown with both, until the person settles it.
 */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef } from "react";
import { contentOf, frameKey, versionOf, type VisitPiece } from "@/client/commands/visit-parts";
import type { Schemas } from "@/client/types";
import type { Item } from "@/sync/queue";
import type { Listener } from "@/sync/sync";
import { useSync, useSyncListener, useUnsent } from "@/sync/use-sync";

export { frameKey } from "@/client/commands/visit-parts";
export type View = Schemas["VisitView"];
export type FrameRecord = Schemas["FrameRecord"];
export type Before = Schemas["Before"];
export type After = Schemas["After"];
/** What an act makes of a frame as it stands at that moment. */
export type ChangeFrame = (record: FrameRecord) => FrameRecord;
type Keep = (piece: string, change: (old: unknown) => unknown) => void;
/** Pieces by name with what was recorded here of them. */
export type Unsent = Readonly<Record<string, Pick<Item, "content" | "state" | "why" | "field">>>;

/** The boxes of the hive on the day of the visit, from the floor up, and the colonies that lived in it. */
export const boxesOf = (view: View) => view.place.hive?.boxes ?? [];
export const coloniesOf = (view: View) => view.place.hive?.colonies ?? [];
export const dividedAfter = (view: View) =>
  coloniesOf(view).length > 1 ? (view.place.hive?.hive.divided_after ?? null) : null;

export const EMPTY_FRAME: FrameRecord = { a: null, b: null, comb: [], cells: [], queen: false, signs: [], note: "" };

/** Shows a visit as the server answered with it, wherever it is on the screen. */
function useShown() {
  const client = useQueryClient();
  return useCallback(
    (next: View) => {
      const key = ["visit", next.visit.id];
      // An answer is compared with the usual visit: where another was chosen, that one stays and is compared again.
      client.setQueriesData<View>({ queryKey: key }, (old) =>
        old && old.compared_with?.id !== next.compared_with?.id
          ? {
              ...next,
              compared_with: old.compared_with,
              previous: old.previous,
              assessment: { ...next.assessment, changes: old.assessment.changes, trends: old.assessment.trends },
            }
          : next,
      );
      void client.invalidateQueries({
        predicate: (query) => query.queryKey[0] === key[0] && query.queryKey[1] === key[1] && query.queryKey[2] !== "",
      });
    },
    [client],
  );
}

export function useVisitQueue(view: View, reason: string) {
  const client = useQueryClient();
  const sync = useSync();
  const visit = view.visit.id;
  const scope = `visit:${visit}`;
  const items = useUnsent(scope);
  const unsent: Unsent = useMemo(
    () => Object.fromEntries(Object.values(items).map((item) => [pieceOf(item), { ...item, content: shownOf(item) }])),
    [items],
  );
  const latest = useRef({ view, reason });
  useEffect(() => {
    latest.current = { view, reason };
  }, [view, reason]);

  const shown = useShown();
  const heard: Listener = useCallback(
    (event, item, answer) => {
      if (event.type === "sent" && item?.kind === "visit_piece") shown(answer as View);
      if (event.type === "failed" && event.failure.kind === "conflict")
        void client.invalidateQueries({ queryKey: ["visit", visit] });
    },
    [client, shown, visit],
  );
  useSyncListener(scope, heard);

  const keep: Keep = useCallback(
    (piece, change) => {
      // From what stands, not from what was drawn: a tap may come between an answer and its drawing, and would take
      // back what was sent just before.
      const fetched = client.getQueriesData<View>({ queryKey: ["visit", visit] }).map(([, one]) => one);
      const newest = [latest.current.view, ...fetched].reduce((best, one) =>
        one && (!best || versionOf(one, piece) > versionOf(best, piece)) ? one : best,
      );
      const key = `${scope}:${piece}`;
      const here = sync.read()[key];
      const old = here ? shownOf(here) : newest && contentOf(newest, piece);
      const content: VisitPiece = { visit, piece, content: change(old), reason: latest.current.reason };
      const base = newest ? versionOf(newest, piece) : 0;
      sync.dispatch({ type: "recorded", key, kind: "visit_piece", scope, content, base });
    },
    [client, sync, scope, visit],
  );
  const keepBefore = useCallback(
    (part: Partial<Before>) => keep("before", (old) => ({ ...(old as Before), ...part })),
    [keep],
  );
  const keepAfter = useCallback(
    (part: Partial<After>) => keep("after", (old) => ({ ...(old as After), ...part })),
    [keep],
  );
  const keepFrame = useCallback(
    (box: string, slot: number, change: ChangeFrame) =>
      keep(frameKey(box, slot), (old) => change((old as FrameRecord | null) ?? EMPTY_FRAME)),
    [keep],
  );
  /** Settle a conflict: what is here replaces what somebody else recorded, or gives way to it. */
  const settle = useCallback(
    (piece: string, mine: boolean) => {
      const base = versionOf(latest.current.view, piece);
      sync.dispatch({ type: "settled", key: `${scope}:${piece}`, mine, base });
    },
    [sync, scope],
  );
  return { unsent, keepBefore, keepAfter, keepFrame, settle, shown };
}

const pieceOf = (item: Item): string => (item.content as VisitPiece).piece;
const shownOf = (item: Item): unknown => (item.content as VisitPiece).content;
