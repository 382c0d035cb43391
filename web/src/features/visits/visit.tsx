/** A visit: before opening, frame by frame in the box plan beside the last one, the colony as a whole, the next steps. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useCallback, useMemo, useRef, useState } from "react";
import { api, ask } from "@/client/api";
import { Problem } from "@/client/types";
import { signsQuery, visitQuery } from "@/client/queries";
import { useMay, useSession } from "@/features/session/use-session";
import { BoxPlan, type At } from "@/instruments/box-plan";
import { longDay, shortDay } from "@/ui/dates";
import { useKeys } from "@/ui/keys";
import { Button, buttonClass } from "@/ui/button";
import { KeyBar } from "@/ui/key-bar";
import { ErrorPage, Loading, Notice, Page } from "@/ui/page";
import { temperature } from "@/ui/units";
import { AfterForm } from "./after-form";
import { BeforeForm } from "./before-form";
import { EmptySlot } from "./empty-slot";
import { Figures, Follows } from "./next-steps";
import { FrameRecorder } from "./frame-recorder";
import { HiveDialog } from "./hive-dialog";
import {
  boxesOf,
  dividedAfter,
  frameKey,
  useKeep,
  type After,
  type Before,
  type FrameRecord,
  type View,
} from "./visit-queue";
import { LineEntry } from "./line-entry";
import { MoveBar, useMove, type Picked, type Target } from "./move-frame";
import { Photos } from "./photos";
import { MARK, floorName, orEmpty, planBoxes, recordAt } from "./plan";
import { NextStop, ToolReminder } from "./round";
import { Since } from "./since";

const PARTS = [
  ["before", "Before opening"],
  ["frames", "Frames"],
  ["after", "The colony"],
  ["follows", "Next steps"],
] as const;
export type Part = (typeof PARTS)[number][0];

export function Visit() {
  const { id } = useParams({ from: "/in/visits/$id" });
  const { compared_with: comparedWith } = useSearch({ from: "/in/visits/$id" });
  const query = useQuery({ ...visitQuery(id, comparedWith), placeholderData: (old) => old });
  if (query.isPending) return <Loading what="Opening the visit …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  return <VisitSheet key={query.data.visit.id} view={query.data} />;
}

function VisitSheet({ view }: { view: View }) {
  const navigate = useNavigate({ from: "/visits/$id" });
  const client = useQueryClient();
  const {
    part = "frames",
    box: boxWanted,
    slot: slotWanted,
    compared_with: wanted,
  } = useSearch({ from: "/in/visits/$id" });
  const units = useSession().person;
  const draft = view.visit.state === "draft";
  const mayRecord = useMay("record") && view.visit.state !== "dropped";
  const signs = useQuery(signsQuery);
  const [reason, setReason] = useState("");
  const [amending, setAmending] = useState(false);
  const { unsent, keep, settle, seen } = useKeep(view, reason);
  const [line, setLine] = useState(false);
  const [boxesOpen, setBoxesOpen] = useState(false);
  const swipe = useRef<{ x: number; y: number } | null>(null);
  const [picked, setPicked] = useState<Picked | null>(null);
  const [lastTarget, setLastTarget] = useState<Target | null>(null);
  const boxes = useMemo(() => planBoxes(view, unsent), [view, unsent]);
  const framed = boxes.filter((box) => box.frames > 0);
  const first = framed[0];
  const at: At | null = first
    ? { box: framed.find((box) => box.id === boxWanted)?.id ?? first.id, slot: slotWanted ?? 1 }
    : null;
  const chosen = framed.find((box) => box.id === at?.box);
  const frame = at && chosen ? chosen.slots[at.slot - 1] : undefined;
  const writable = mayRecord && (draft || (amending && reason.trim().length >= 3));

  const show = useCallback(
    (next: At) =>
      void navigate({
        search: (old) => ({ ...old, part: "frames" as const, box: next.box, slot: next.slot }),
        replace: true,
        resetScroll: false,
      }),
    [navigate],
  );
  const toPart = (next: Part) => void navigate({ search: (old) => ({ ...old, part: next }), replace: true });
  const go = (by: number) => {
    if (!at || !chosen) return;
    let slot = at.slot + by;
    while (slot >= 1 && slot <= chosen.frames && !chosen.own(slot)) slot += by;
    if (slot >= 1 && slot <= chosen.frames) return show({ box: at.box, slot });
    const next = framed[framed.indexOf(chosen) + by];
    if (next) show({ box: next.id, slot: by > 0 ? 1 : next.frames });
    else if (by > 0) toPart("after");
  };
  const refresh = async () => {
    setPicked(null);
    await client.invalidateQueries({ queryKey: ["visit", view.visit.id] });
  };
  const move = useMove(view, refresh);
  const choose = (next: At) => {
    if (picked) {
      const target = { to_box: next.box, to_slot: next.slot };
      setLastTarget(target);
      move.mutate({ picked, target, why: "", id: crypto.randomUUID() });
    } else {
      show(next);
      // In the field the recorder lies below the plan: it comes up under the hand.
      if (window.innerWidth < 900) document.getElementById("frame")?.scrollIntoView({ block: "start" });
    }
  };
  const pickUp = () => {
    const hanging = view.place.frames.find((one) => one.box_id === at?.box && one.slot === at.slot);
    if (hanging && at && chosen)
      setPicked({ frameId: hanging.id, name: `${chosen.name}, frame ${chosen.numbered(at.slot)}` });
  };
  const close = useMutation({
    mutationFn: () =>
      ask(api.POST("/api/v1/visits/{visit_id}/close", { params: { path: { visit_id: view.visit.id } } })),
    onSuccess: async (next) => {
      seen(next);
      await client.invalidateQueries({
        predicate: (query) => !["session", "ruler", "signs", "visit"].includes(String(query.queryKey[0])),
      });
      toPart("follows");
    },
  });
  const drop = useMutation({
    mutationFn: () =>
      ask(api.POST("/api/v1/visits/{visit_id}/drop", { params: { path: { visit_id: view.visit.id } } })),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ["colony"] });
      await navigate({ to: "/colonies/$id", params: { id: view.colony.id } });
    },
  });
  const waiting = Object.values(unsent).filter((one) => one.state === "waiting" || one.state === "sending").length;
  const refused = Object.entries(unsent).filter(([, one]) => one.state === "refused");
  const conflicts = Object.entries(unsent).filter(([, one]) => one.state === "conflict");
  const before = (unsent["before"]?.content as Before | undefined) ?? view.visit.before;
  const after = (unsent["after"]?.content as After | undefined) ?? view.visit.after;
  const faultOf = (piece: string) =>
    unsent[piece]?.state === "refused" ? { field: unsent[piece].field, message: unsent[piece].why } : null;
  useKeys([
    { key: "j", says: "next frame", run: () => go(1) },
    { key: "k", says: "frame before", run: () => go(-1) },
    { key: "ArrowRight", shown: "→", says: "next frame", run: () => go(1) },
    { key: "ArrowLeft", shown: "←", says: "frame before", run: () => go(-1) },
    { key: "m", says: "move this frame", run: () => writable && pickUp() },
    { key: "y", says: "boxes: add, take off, floor", run: () => writable && setBoxesOpen(true) },
    { key: "l", says: "write as a line", run: () => writable && setLine(true) },
    {
      key: "f",
      says: "next part of the visit",
      run: () => toPart(PARTS[(PARTS.findIndex(([id]) => id === part) + 1) % PARTS.length]?.[0] ?? "frames"),
    },
    { key: "Escape", says: "leave a frame where it is", run: () => setPicked(null) },
  ]);
  const pieceName = (piece: string) => {
    const [, box, slot] = piece.split(":");
    const there = framed.find((one) => one.id === box);
    return there
      ? `frame ${there.numbered(Number(slot))}${framed.length > 1 ? ` of ${there.name.toLowerCase()}` : ""}`
      : piece === "before"
        ? "before opening"
        : "the colony";
  };
  const queenMark = view.colony.mark_seen ? (MARK[view.colony.mark_seen] ?? null) : null;
  const state =
    view.visit.state === "dropped"
      ? "Dropped."
      : draft
        ? waiting > 0
          ? `Not sent yet (${waiting}), saved on this device`
          : "All changes saved"
        : `Closed${view.visit.closed_at ? `, ${view.visit.by_name}` : ""}`;
  return (
    <>
      <Page className="desk:pb-4">
        <div className="flex flex-wrap items-baseline justify-between gap-x-6">
          <div className="flex flex-wrap items-baseline gap-x-4">
            <h1 className="text-4xl">
              <Link to="/colonies/$id" params={{ id: view.colony.id }} className="hover:underline">
                {view.colony.label}
              </Link>
            </h1>
            <p className="text-ink-2">
              <Link to="/apiaries/$id" params={{ id: view.place.apiary_id }} className="underline underline-offset-4">
                {view.place.apiary}
              </Link>
              , visit of {longDay(view.visit.visited_on)}
              {before.air_temp_c != null && `, ${temperature(before.air_temp_c, units)}`}
              {before.wind && `, ${before.wind}`}
            </p>
          </div>
          <p
            role="status"
            className={`text-sm ${conflicts.length + refused.length > 0 ? "font-bold text-act" : "text-ink-2"}`}>
            {conflicts.length > 0
              ? `${conflicts.length} recorded twice: settle below`
              : refused.length > 0
                ? `Not kept yet: ${refused.map(([piece]) => pieceName(piece)).join(", ")}`
                : state}
          </p>
        </div>
        {view.hold && (
          <div className="mt-2">
            <Notice tone="act">
              <strong>On hold since {shortDay(view.hold.since, view.today)}:</strong> {view.hold.why}. No comb leaves
              this hive.
            </Notice>
          </div>
        )}
        {draft && (
          <div className="mt-2">
            <ToolReminder apiaryId={view.place.apiary_id} colonyId={view.colony.id} />
          </div>
        )}
        <div className="mt-1">
          <Figures view={view} />
        </div>
        <div role="tablist" aria-label="Parts of the visit" className="mt-3 grid grid-cols-4 border-y border-line">
          {PARTS.map(([id, says]) => (
            <button
              key={id}
              type="button"
              role="tab"
              id={`part-${id}`}
              aria-selected={part === id}
              aria-controls="part"
              data-keys="through"
              onClick={() => toPart(id)}
              className={`min-h-14 px-1 font-semibold leading-tight desk:min-h-10 ${part === id ? "bg-ink text-sheet" : "text-ink-2"}`}>
              {says}
            </button>
          ))}
        </div>
        {!draft && mayRecord && (
          <div className="mt-3 flex flex-wrap items-end gap-3">
            {amending ? (
              <label className="max-w-xl flex-1">
                <span className="mb-1 block font-semibold">Why is it amended?</span>
                <input className="input" value={reason} onChange={(event) => setReason(event.target.value)} />
              </label>
            ) : (
              <Button onClick={() => setAmending(true)}>Amend this visit</Button>
            )}
            <Link to="/visits/$id/sheet" params={{ id: view.visit.id }} className={buttonClass("plain")}>
              The keeper’s sheet
            </Link>
            <Link
              to="/colonies/$id"
              params={{ id: view.colony.id }}
              className="inline-flex min-h-14 items-center underline underline-offset-4 desk:min-h-10">
              Back to {view.colony.label}
            </Link>
          </div>
        )}
        {view.visit.state === "closed" && mayRecord && !amending && view.visit.visited_on === view.today && (
          <div className="mt-4">
            <NextStop apiaryId={view.place.apiary_id} colonyId={view.colony.id} today={view.today} />
          </div>
        )}
        <div id="part" role="tabpanel" aria-labelledby={`part-${part}`} className="mt-4">
          {part === "frames" && (
            <div className="grid items-start gap-x-8 gap-y-4 desk:grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)]">
              <div className="min-w-0 space-y-3">
                {picked && (
                  <MoveBar
                    here={
                      at && view.place.frames.some((one) => one.id === picked.frameId)
                        ? { to_box: at.box, to_slot: at.slot }
                        : null
                    }
                    view={view}
                    picked={picked}
                    move={move}
                    onCancel={() => {
                      setPicked(null);
                      move.reset();
                    }}
                    last={lastTarget}
                    setLast={setLastTarget}
                  />
                )}
                {line && writable && (
                  <LineEntry
                    onClose={() => setLine(false)}
                    previousAt={(box, slot) => framed[box - 1]?.slots[slot - 1]?.previous ?? null}
                    onTake={(box, slot, record) => {
                      const target = framed[box - 1];
                      if (!target || slot > target.frames) return `There is no frame ${slot} in box ${box}.`;
                      const physical =
                        view.place.hive?.hive.numbered_from === "right" ? target.frames + 1 - slot : slot;
                      keep(frameKey(target.id, physical), record);
                      show({ box: target.id, slot: physical });
                      return null;
                    }}
                  />
                )}
                {framed.length === 0 ? (
                  <Notice>Say first in which boxes it lives: the hive is on the colony’s page.</Notice>
                ) : (
                  <BoxPlan
                    boxes={boxes}
                    at={at}
                    floor={floorName(view)}
                    queenMark={queenMark}
                    dividedAfter={dividedAfter(view)}
                    against={
                      view.compared_with
                        ? `under each frame: ${shortDay(view.compared_with.visited_on, view.today)}`
                        : null
                    }
                    onChoose={choose}
                  />
                )}
                <div className="flex flex-wrap items-center gap-3">
                  {view.past.length > 0 && (
                    <label className="flex items-center gap-2 text-sm">
                      Compared with
                      <select
                        className="input w-auto"
                        value={wanted ?? view.compared_with?.id ?? ""}
                        onChange={(event) =>
                          void navigate({
                            search: (old) => ({ ...old, compared_with: event.target.value }),
                            replace: true,
                          })
                        }>
                        {view.past.map((one) => (
                          <option key={one.id} value={one.id}>
                            {shortDay(one.visited_on, view.today)}
                            {one.frames > 0 ? `, ${one.frames} frames` : ", no frames"}
                          </option>
                        ))}
                      </select>
                    </label>
                  )}
                  {writable && !line && <Button onClick={() => setLine(true)}>Write as a line</Button>}
                  {writable && <Button onClick={() => setBoxesOpen(true)}>Boxes</Button>}
                </div>
                <Since view={view} numbered={(box, slot) => framed[box - 1]?.numbered(slot) ?? slot} />
                {writable && view.assessment.trace.length > 0 && (
                  <p className="text-sm text-ink-2">
                    Look for the queen on{" "}
                    {view.assessment.trace
                      .map(
                        (one) =>
                          `${framed.length > 1 ? `${one.box}.` : ""}${framed[one.box - 1]?.numbered(one.slot) ?? one.slot} (${one.why})`,
                      )
                      .join(", ")}
                    .
                  </p>
                )}
              </div>
              {at && chosen && frame && (
                <section
                  id="frame"
                  aria-label="This frame"
                  className="min-w-0 scroll-mt-14 touch-pan-y"
                  onTouchStart={(event) => {
                    const touch = event.touches.item(0);
                    swipe.current =
                      touch && !(event.target as HTMLElement).closest("[role=slider],input")
                        ? { x: touch.clientX, y: touch.clientY }
                        : null;
                  }}
                  onTouchEnd={(event) => {
                    const touch = event.changedTouches.item(0);
                    const from = swipe.current;
                    if (touch && from && Math.abs(touch.clientX - from.x) > 70 && Math.abs(touch.clientY - from.y) < 50)
                      go(touch.clientX < from.x ? 1 : -1);
                  }}>
                  <div className="mb-2 flex items-baseline justify-between gap-2">
                    <h2 className="text-2xl">
                      Frame {chosen.numbered(at.slot)}
                      <span className="text-base font-normal text-ink-2">
                        {framed.length > 1 ? `, ${chosen.name.toLowerCase()}` : ""}
                      </span>
                    </h2>
                    {writable && frame.kind !== null && (
                      <Button variant="quiet" onClick={pickUp}>
                        Move it
                      </Button>
                    )}
                  </div>
                  <Settle piece={frameKey(at.box, at.slot)} unsent={unsent} view={view} settle={settle} />
                  {frame.kind === null ? (
                    <EmptySlot
                      view={view}
                      format={boxesOf(view).find((box) => box.id === at.box)?.frame_format ?? null}
                      disabled={!writable || move.isPending}
                      error={picked ? null : move.error}
                      onBring={(kind) =>
                        move.mutate({
                          picked: null,
                          kind,
                          target: { to_box: at.box, to_slot: at.slot },
                          why: "",
                          id: crypto.randomUUID(),
                        })
                      }
                      onHang={(frameId, name) => {
                        const target = { to_box: at.box, to_slot: at.slot };
                        setPicked({ frameId, name });
                        setLastTarget(target);
                        move.mutate({ picked: { frameId, name }, target, why: "", id: crypto.randomUUID() });
                      }}
                    />
                  ) : writable ? (
                    <FrameRecorder
                      key={`${at.box}-${at.slot}`}
                      record={orEmpty(recordAt(view, unsent, at.box, at.slot))}
                      previous={frame.previous}
                      fault={faultOf(frameKey(at.box, at.slot))}
                      onChange={(record: FrameRecord) => keep(frameKey(at.box, at.slot), record)}
                      onNext={() => go(1)}
                    />
                  ) : (
                    <p className="text-ink-2">{frame.record ? frame.record.note : "Not looked at."}</p>
                  )}
                  {frame.kind !== null && (writable || view.photos.length > 0) && (
                    <div className="mt-3">
                      <Photos
                        view={view}
                        at={at}
                        writable={writable}
                        name={`frame ${chosen.numbered(at.slot)}`}
                        signs={(frame.record?.signs ?? []).map((one) => ({
                          id: one.sign,
                          name: signs.data?.find((each) => each.id === one.sign)?.name ?? one.sign,
                        }))}
                      />
                    </div>
                  )}
                  <div className="sticky bottom-0 -mx-4 mt-3 grid grid-cols-2 gap-2 border-t border-line bg-paper p-2 desk:static desk:mx-0 desk:border-0 desk:p-0">
                    <Button big onClick={() => go(-1)}>
                      Frame before
                    </Button>
                    <Button big variant="main" onClick={() => go(1)}>
                      Next frame
                    </Button>
                  </div>
                </section>
              )}
            </div>
          )}
          {part === "before" && (
            <div className="max-w-5xl">
              <Settle piece="before" unsent={unsent} view={view} settle={settle} />
              <fieldset disabled={!writable}>
                <BeforeForm
                  content={before}
                  opening={view.assessment.opening}
                  units={units}
                  fault={faultOf("before")}
                  onChange={(content) => keep("before", content)}
                />
              </fieldset>
              <Button variant="main" big className="mt-5 w-full" onClick={() => toPart("frames")}>
                To the frames
              </Button>
            </div>
          )}
          {part === "after" && (
            <div className="max-w-3xl">
              <Settle piece="after" unsent={unsent} view={view} settle={settle} />
              <fieldset disabled={!writable}>
                <AfterForm
                  content={after}
                  view={view}
                  fault={faultOf("after")}
                  onChange={(content) => keep("after", content)}
                />
              </fieldset>
              <div className="mt-5">
                <Photos view={view} at={null} writable={writable} name="the visit" />
              </div>
              {draft && mayRecord && (
                <Closing
                  close={close}
                  drop={drop}
                  waiting={waiting}
                  conflicts={conflicts.length + refused.length}
                  label={view.colony.label}
                />
              )}
            </div>
          )}
          {part === "follows" && (
            <div className="max-w-3xl">
              <Follows view={view} />
              {draft && mayRecord && (
                <Closing
                  close={close}
                  drop={drop}
                  waiting={waiting}
                  conflicts={conflicts.length + refused.length}
                  label={view.colony.label}
                />
              )}
            </div>
          )}
        </div>
      </Page>
      <HiveDialog view={view} open={boxesOpen} onClose={() => setBoxesOpen(false)} />
      <KeyBar
        keys={[
          ["← →", "frame"],
          ["c o e h b", "cover, then 0 to 9"],
          ["a", "as last time"],
          ["t", "only stores"],
          ["q", "queen"],
          ["m", "move"],
          ["l", "line"],
          ["?", "all keys"],
        ]}
      />
    </>
  );
}

function Closing({
  close,
  drop,
  waiting,
  conflicts,
  label,
}: {
  close: { mutate: () => void; isPending: boolean; error: unknown };
  drop: { mutate: () => void; isPending: boolean };
  waiting: number;
  conflicts: number;
  label: string;
}) {
  const [sure, setSure] = useState(false);
  const problem = close.error instanceof Problem ? close.error : null;
  return (
    <div className="mt-6 space-y-3 border-t-2 border-ink pt-4">
      {problem && (
        <p role="alert" className="font-semibold text-act">
          {problem.message}
        </p>
      )}
      {conflicts > 0 && (
        <p className="font-semibold text-act">Settle first what is not kept yet: it is named on top.</p>
      )}
      <div className="flex flex-wrap gap-3">
        <Button
          variant="main"
          big
          disabled={close.isPending || waiting > 0 || conflicts > 0}
          onClick={() => close.mutate()}>
          {waiting > 0 ? "Sending …" : `Close the visit to ${label}`}
        </Button>
        {sure ? (
          <Button onClick={() => drop.mutate()} disabled={drop.isPending}>
            Yes, drop this draft
          </Button>
        ) : (
          <Button variant="quiet" onClick={() => setSure(true)}>
            Opened by mistake
          </Button>
        )}
      </div>
    </div>
  );
}

function Settle({
  piece,
  unsent,
  view,
  settle,
}: {
  piece: string;
  unsent: Record<string, { state: string; content: unknown }>;
  view: View;
  settle: (piece: string, mine: boolean) => void;
}) {
  if (unsent[piece]?.state !== "conflict") return null;
  const [, box, slot] = piece.split(":");
  const theirs = view.records.find((one) => one.box_id === box && one.slot === Number(slot));
  return (
    <div role="alert" className="mb-3 border-4 border-act bg-sheet p-3">
      <p className="font-semibold">{theirs?.by_name || "Somebody else"} recorded this meanwhile.</p>
      <p className="text-ink-2">Yours is shown here, unsent. Which stands?</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button variant="main" onClick={() => settle(piece, true)}>
          Keep mine
        </Button>
        <Button onClick={() => settle(piece, false)}>Keep theirs</Button>
      </div>
    </div>
  );
}
