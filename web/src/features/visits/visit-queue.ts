/**
 * A visit is kept piece by piece: drawn at once from this device, kept here at every tap, sent behind the hand. A piece
 * that somebody else recorded meanwhile is a conflict, shown with both, until the person settles it.
 */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask } from "@/client/api";
import { Problem, type Schemas } from "@/client/types";
import { dropDraft, keepDraft, readDraft } from "@/ui/drafts";

export type View = Schemas["VisitView"];
export type FrameRecord = Schemas["FrameRecord"];
export type Before = Schemas["Before"];
export type After = Schemas["After"];
export type Unsent = {
  content: unknown;
  base: number;
  state: "waiting" | "sending" | "refused" | "conflict";
  why: string;
  field: string;
};
type Pieces = Record<string, Unsent>;

/** The boxes of the hive on the day of the visit, from the floor up, and the colonies that lived in it. */
export const boxesOf = (view: View) => view.place.hive?.boxes ?? [];
export const coloniesOf = (view: View) => view.place.hive?.colonies ?? [];
export const dividedAfter = (view: View) =>
  coloniesOf(view).length > 1 ? (view.place.hive?.hive.divided_after ?? null) : null;

export const frameKey = (box: string, slot: number) => `frame:${box}:${slot}`;
export const EMPTY_FRAME: FrameRecord = { a: null, b: null, comb: [], cells: [], queen: false, signs: [], note: "" };
const PAUSE_MS = 350;
const AGAIN_MS = 8000;

function versionOf(view: View, piece: string): number {
  if (piece === "before") return view.visit.before_version;
  if (piece === "after") return view.visit.after_version;
  const [, box, slot] = piece.split(":");
  return view.records.find((one) => one.box_id === box && one.slot === Number(slot))?.version ?? 0;
}

export function useKeep(view: View, reason: string) {
  const client = useQueryClient();
  const key = `visit:${view.visit.id}`;
  const [unsent, setUnsent] = useState<Pieces>(() => {
    const kept = readDraft<Pieces>(key) ?? {};
    return Object.fromEntries(
      Object.entries(kept).map(([piece, one]) => [
        piece,
        one.state === "sending" ? { ...one, state: "waiting" as const } : one,
      ]),
    );
  });
  const latest = useRef({ unsent, view, reason });
  const busy = useRef(false);
  useEffect(() => {
    latest.current = { unsent, view, reason };
    if (Object.keys(unsent).length === 0) dropDraft(key);
    else keepDraft(key, unsent);
  }, [unsent, view, reason, key]);

  const seen = useCallback(
    (next: View) => {
      const key = ["visit", next.visit.id];
      // An answer is compared with the usual visit: where another lies beside, that one stays and is compared again.
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

  const send = useCallback(async () => {
    if (busy.current) return;
    const waiting = Object.entries(latest.current.unsent).filter(([, one]) => one.state === "waiting");
    if (waiting.length === 0) return;
    busy.current = true;
    const id = latest.current.view.visit.id;
    const path = { params: { path: { visit_id: id } } };
    const why = latest.current.reason;
    for (const [piece, sent] of waiting) {
      setUnsent((old) => (old[piece] === sent ? { ...old, [piece]: { ...sent, state: "sending" } } : old));
      try {
        const next = await (piece === "before"
          ? ask(
              api.PUT("/api/v1/visits/{visit_id}/before", {
                ...path,
                body: { content: sent.content as Before, version: sent.base, reason: why },
              }),
            )
          : piece === "after"
            ? ask(
                api.PUT("/api/v1/visits/{visit_id}/after", {
                  ...path,
                  body: { content: sent.content as After, version: sent.base, reason: why },
                }),
              )
            : ask(
                api.PUT("/api/v1/visits/{visit_id}/frames", {
                  ...path,
                  body: {
                    frames: [
                      {
                        box_id: piece.split(":")[1] ?? "",
                        slot: Number(piece.split(":")[2]),
                        version: sent.base,
                        record: sent.content as FrameRecord,
                      },
                    ],
                    reason: why,
                  },
                }),
              ));
        seen(next);
        setUnsent((old) => {
          const now = old[piece];
          const rest = Object.fromEntries(Object.entries(old).filter(([other]) => other !== piece));
          // Changed while it was on its method: what is here now follows, on top of what was just kept.
          return now && now.content !== sent.content
            ? { ...rest, [piece]: { ...now, base: versionOf(next, piece), state: "waiting" } }
            : rest;
        });
      } catch (error) {
        const problem = error instanceof Problem ? error : null;
        const lost = problem === null || problem.status === 0 || problem.status >= 500;
        const conflict =
          problem?.status === 409 &&
          problem.faults.some((fault) => fault.code === "conflict" && fault.field !== "reason");
        setUnsent((old) => {
          const now = old[piece];
          if (!now) return old;
          return {
            ...old,
            [piece]: {
              ...now,
              state: lost ? "waiting" : conflict ? "conflict" : now.content === sent.content ? "refused" : "waiting",
              why: problem?.faults[0]?.message ?? problem?.message ?? "It could not be sent.",
              field: problem?.faults[0]?.field ?? "",
            },
          };
        });
        if (conflict) await client.invalidateQueries({ queryKey: ["visit", id] });
        if (lost) break;
      }
    }
    busy.current = false;
  }, [client, seen]);

  const waitingNow = Object.values(unsent).some((one) => one.state === "waiting");
  useEffect(() => {
    if (!waitingNow) return;
    const soon = window.setTimeout(() => void send(), PAUSE_MS);
    const again = window.setInterval(() => void send(), AGAIN_MS);
    const online = () => void send();
    window.addEventListener("online", online);
    return () => {
      window.clearTimeout(soon);
      window.clearInterval(again);
      window.removeEventListener("online", online);
    };
  }, [unsent, waitingNow, send]);

  const keep = useCallback((piece: string, content: unknown) => {
    setUnsent((old) => {
      const before = old[piece];
      return {
        ...old,
        [piece]: {
          content,
          base: before ? before.base : versionOf(latest.current.view, piece),
          state: before?.state === "conflict" ? "conflict" : "waiting",
          why: "",
          field: "",
        },
      };
    });
  }, []);

  /** Settle a conflict: what is here replaces what somebody else kept, or gives way to it. */
  const settle = useCallback((piece: string, mine: boolean) => {
    setUnsent((old) => {
      const { [piece]: one, ...rest } = old;
      return one && mine
        ? { ...rest, [piece]: { ...one, base: versionOf(latest.current.view, piece), state: "waiting", why: "" } }
        : rest;
    });
  }, []);

  return { unsent, keep, settle, seen, send };
}
