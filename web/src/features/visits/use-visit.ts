/** A visit at work: its pieces with what is not sent yet, the frame in hand, what is being moved, and how it ends. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useMemo, useState } from "react";
import { closeVisit, dropVisit } from "@/client/commands/visits";
import { useMay, useSession } from "@/features/session/use-session";
import { useSync } from "@/sync/use-sync";
import { useKeys } from "@/ui/keys";
import { useMove, type Picked, type Target } from "./move-frame";
import { planBoxes } from "./plan";
import { PARTS, type Part } from "./parts";
import { useFrameCursor, type At } from "./use-frame-cursor";
import { useVisitQueue, type After, type Before, type View } from "./visit-queue";

export type VisitState = ReturnType<typeof useVisit>;

export function useVisit(view: View) {
  const { part: asked, compared_with: comparedWith } = useSearch({ from: "/in/visits/$id" });
  const navigate = useNavigate({ from: "/visits/$id" });
  const units = useSession().person;
  const [reason, setReason] = useState("");
  const [amending, setAmending] = useState(false);
  const draft = view.visit.state === "draft";
  // A closed visit opens on what it found.
  const part = asked ?? (draft ? "frames" : "follows");
  const mayRecord = useMay("record") && view.visit.state !== "dropped";
  const writable = mayRecord && (draft || (amending && reason.trim().length >= 3));
  const { unsent, settle, shown, ...keeping } = useVisitQueue(view, reason);
  const boxes = useMemo(() => planBoxes(view, unsent), [view, unsent]);
  const toPart = (next: Part) => void navigate({ search: (old) => ({ ...old, part: next }), replace: true });
  const cursor = useFrameCursor(boxes, toPart);
  const moving = useMoving(view, cursor.at, cursor.show);
  const ending = useEnding(view, shown, toPart);
  const amend = () => {
    setAmending(true);
    if (part === "follows") toPart("frames");
  };
  /** Open again after its closing was undone: where it was left, not on what it found. */
  const reopened = () => toPart(view.records.length === 0 ? "after" : "frames");
  const entries = Object.entries(unsent);
  const ofState = (...states: string[]) =>
    entries.filter(([, one]) => states.includes(one.state)).map(([piece]) => piece);
  return {
    ...cursor,
    ...moving,
    ...ending,
    view,
    units,
    part,
    toPart,
    comparedWith,
    draft,
    mayRecord,
    writable,
    reason,
    setReason,
    amending,
    amend,
    reopened,
    boxes,
    unsent,
    ...keeping,
    settle,
    waiting: ofState("queued", "sending").length,
    refused: ofState("refused"),
    conflicts: ofState("conflict"),
    before: (unsent["before"]?.content as Before | undefined) ?? view.visit.before,
    after: (unsent["after"]?.content as After | undefined) ?? view.visit.after,
    faultOf: (piece: string) =>
      unsent[piece]?.state === "refused" ? { field: unsent[piece].field, message: unsent[piece].why } : null,
  };
}

/** A frame that is picked up, and where it may go. */
function useMoving(view: View, at: At | null, show: (next: At) => void) {
  const client = useQueryClient();
  const [picked, setPicked] = useState<Picked | null>(null);
  const [lastTarget, setLastTarget] = useState<Target | null>(null);
  const move = useMove(view, async () => {
    setPicked(null);
    await client.invalidateQueries({ queryKey: ["visit", view.visit.id] });
  });
  const put = (what: Picked, target: Target) => {
    setLastTarget(target);
    move.mutate({ picked: what, target, why: "", id: crypto.randomUUID() });
  };
  const choose = (next: At) => {
    if (picked) return put(picked, { to_box: next.box, to_slot: next.slot });
    show(next);
  };
  const pickUp = (name: string) => {
    const hanging = view.place.frames.find((one) => one.box_id === at?.box && one.slot === at.slot);
    if (hanging) setPicked({ frameId: hanging.id, name });
  };
  const putDown = () => {
    setPicked(null);
    move.reset();
  };
  const hang = (frame: Picked, target: Target) => {
    setPicked(frame);
    put(frame, target);
  };
  return { picked, pickUp, putDown, hang, move, choose, lastTarget, setLastTarget };
}

function useEnding(view: View, shown: (next: View) => void, toPart: (next: Part) => void) {
  const client = useQueryClient();
  const sync = useSync();
  const navigate = useNavigate({ from: "/visits/$id" });
  const close = useMutation({
    mutationFn: () => closeVisit(view.visit.id),
    onSuccess: async (next) => {
      shown(next);
      await client.invalidateQueries({
        predicate: (query) => !["session", "ruler", "signs", "visit"].includes(String(query.queryKey[0])),
      });
      toPart("follows");
    },
  });
  const drop = useMutation({
    mutationFn: () => dropVisit(view.visit.id),
    onSuccess: async () => {
      const scope = `visit:${view.visit.id}`;
      const left = Object.entries(sync.read()).filter(([, item]) => item.scope === scope);
      left.forEach(([key]) => sync.dispatch({ type: "withdrawn", key }));
      await client.invalidateQueries({ queryKey: ["colony"] });
      await navigate({ to: "/colonies/$id", params: { id: view.colony.id } });
    },
  });
  return { close, drop };
}

/** The keys of a visit. */
export function useVisitKeys(visit: VisitState, open: { boxes: () => void; line: () => void }): void {
  const { go, writable, part } = visit;
  const following = PARTS[(PARTS.findIndex(([id]) => id === part) + 1) % PARTS.length]?.[0] ?? "frames";
  useKeys([
    { key: "j", says: "next frame", run: () => go(1) },
    { key: "k", says: "frame before", run: () => go(-1) },
    { key: "ArrowRight", shown: "→", says: "next frame", run: () => go(1) },
    { key: "ArrowLeft", shown: "←", says: "frame before", run: () => go(-1) },
    { key: "m", says: "move this frame", run: () => writable && visit.pickUp(visit.frameName) },
    { key: "y", says: "boxes: add, take off, floor", run: () => writable && open.boxes() },
    { key: "l", says: "write as a line", run: () => writable && open.line() },
    { key: "f", says: "next part of the visit", run: () => visit.toPart(following) },
    { key: "Escape", says: "leave a frame where it is", run: visit.putDown },
  ]);
}
