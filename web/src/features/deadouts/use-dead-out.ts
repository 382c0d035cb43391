/**
 * The examination of a dead colony: each step shown at once from this device, saved here at every tap, sent behind the
 * hand; what somebody else recorded meanwhile is a conflict that the person settles.
 */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import {
  closeDeadOut,
  dropDeadOut,
  stepVersion,
  type DeadOutView,
  type DeadStep,
  type StepPiece,
} from "@/client/commands/deadouts";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import type { Item } from "@/sync/queue";
import type { Listener } from "@/sync/sync";
import { useSync, useSyncListener, useUnsent } from "@/sync/use-sync";

export type StepRecord = Schemas["DeadStepRecord"];
export type DeadOutState = ReturnType<typeof useDeadOut>;
export type SetStep = (part: Partial<StepRecord>) => void;

export const EMPTY_STEP: StepRecord = { is_done: false, signs: [], note: "", sure_by: [], combs: [], medicines: "" };

const pieceOf = (item: Item) => item.content as StepPiece;

export function useDeadOut(view: DeadOutView) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const sync = useSync();
  const [reason, setReason] = useState("");
  const scope = `deadout:${view.id}`;
  const items = useUnsent(scope);
  const unsent = useMemo(
    () => Object.fromEntries(Object.values(items).map((item) => [pieceOf(item).step, item])),
    [items],
  );
  const latest = useRef({ view, reason });
  useEffect(() => {
    latest.current = { view, reason };
  }, [view, reason]);
  const shown = useCallback((next: DeadOutView) => client.setQueryData(["deadout", next.id], next), [client]);
  const heard: Listener = useCallback(
    (event, item, answer) => {
      if (event.type === "sent" && item?.kind === "dead_step") shown(answer as DeadOutView);
      if (event.type === "failed" && event.failure.kind === "conflict")
        void client.invalidateQueries({ queryKey: ["deadout", view.id] });
    },
    [client, shown, view.id],
  );
  useSyncListener(scope, heard);

  const recorded = (step: DeadStep): StepRecord =>
    (unsent[step] && pieceOf(unsent[step]).content) ??
    view.steps.find((one) => one.step === step)?.record ??
    EMPTY_STEP;
  const keep = (step: DeadStep, part: Partial<StepRecord>) => {
    const newest = client.getQueryData<DeadOutView>(["deadout", view.id]) ?? latest.current.view;
    const key = `${scope}:${step}`;
    const here = sync.read()[key];
    const old = here ? pieceOf(here).content : (newest.steps.find((one) => one.step === step)?.record ?? EMPTY_STEP);
    const content: StepPiece = { deadout: view.id, step, content: { ...old, ...part }, reason: latest.current.reason };
    sync.dispatch({ type: "recorded", key, kind: "dead_step", scope, content, base: stepVersion(newest, step) });
  };
  const settle = (step: DeadStep, mine: boolean) =>
    sync.dispatch({ type: "settled", key: `${scope}:${step}`, mine, base: stepVersion(latest.current.view, step) });
  const close = useMutation({
    mutationFn: () => closeDeadOut(view.id),
    onSuccess: async (next) => {
      shown(next);
      await client.invalidateQueries({
        predicate: (query) => !["session", "ruler", "signs", "deadout"].includes(String(query.queryKey[0])),
      });
      await navigate({ to: "/deadouts/$id", params: { id: view.id }, search: {} });
      window.scrollTo(0, 0);
    },
  });
  const drop = useMutation({
    mutationFn: () => dropDeadOut(view.id),
    onSuccess: async () => {
      Object.keys(items).forEach((key) => sync.dispatch({ type: "withdrawn", key }));
      await client.invalidateQueries({ queryKey: ["colony"] });
      await navigate({ to: "/colonies/$id", params: { id: view.colony_id } });
    },
  });
  const draft = view.state === "draft";
  const mayRecord = useMay("record") && view.state !== "dropped";
  return {
    view,
    draft,
    mayRecord,
    reason,
    setReason,
    writable: mayRecord && (draft || reason.trim().length >= 3),
    recorded,
    keep,
    settle,
    close,
    drop,
    waiting: Object.values(unsent).filter((one) => one.state === "queued" || one.state === "sending").length,
    conflicts: Object.values(unsent)
      .filter((one) => one.state === "conflict")
      .map((one) => pieceOf(one).step),
    faultOf: (step: DeadStep) =>
      unsent[step]?.state === "refused" ? { field: unsent[step].field, message: unsent[step].why } : null,
  };
}
