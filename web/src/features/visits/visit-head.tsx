/** The head of a visit: which colony, where and when, what is not sent yet, and the way through its parts. */
import { clsx } from "clsx";
import { Link } from "@tanstack/react-router";
import { longDay, shortDay } from "@/ui/dates";
import { Button } from "@/ui/button";
import { reopenVisit } from "@/client/commands/visits";
import { Undo } from "@/ui/undo";
import { LinkButton, TextLink } from "@/ui/link";
import { Notice } from "@/ui/page";
import { temperature } from "@/ui/units";
import { PARTS } from "./parts";
import { NextStop, ToolReminder } from "./round";
import type { VisitState } from "./use-visit";

export function VisitHead({ visit }: { visit: VisitState }) {
  const { view, before, units } = visit;
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-x-6">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h1 className="text-2xl desk:text-4xl">
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
        <SavedLine visit={visit} />
      </div>
      {view.hold && (
        <div className="mt-2">
          <Notice tone="act">
            <strong>On hold since {shortDay(view.hold.since, view.today)}:</strong> {view.hold.why}. No comb leaves this
            hive.
          </Notice>
        </div>
      )}
      {visit.draft && (
        <div className="mt-2">
          <ToolReminder apiaryId={view.place.apiary_id} colonyId={view.colony.id} />
        </div>
      )}
    </>
  );
}

/** Whether everything reached the server; what was refused or recorded twice is named. */
function SavedLine({ visit }: { visit: VisitState }) {
  const { view, draft, waiting, conflicts, refused } = visit;
  const open = waiting > 0 ? `Not sent yet (${waiting}), saved on this device` : "All changes saved";
  const closed = `Closed${view.visit.closed_at ? `, ${view.visit.by_name}` : ""}`;
  const state = view.visit.state === "dropped" ? "Dropped." : draft ? open : closed;
  const troubled = conflicts.length + refused.length > 0;
  return (
    <p role="status" className={clsx("text-sm", troubled ? "font-bold text-act" : "text-ink-2")}>
      {conflicts.length > 0
        ? `${conflicts.length} recorded twice: settle below`
        : refused.length > 0
          ? `Not accepted: ${refused.map((piece) => pieceName(visit, piece)).join(", ")}`
          : state}
    </p>
  );
}

function pieceName({ framed }: VisitState, piece: string): string {
  const [, box, slot] = piece.split(":");
  const there = framed.find((one) => one.id === box);
  if (!there) return piece === "before" ? "before opening" : "the colony";
  return `frame ${there.numbered(Number(slot))}${framed.length > 1 ? ` of ${there.name.toLowerCase()}` : ""}`;
}

export function PartTabs({ visit }: { visit: VisitState }) {
  return (
    <div
      id="parts"
      role="tablist"
      aria-label="Parts of the visit"
      className="mt-2 grid grid-cols-4 border-y border-line">
      {PARTS.map(([id, says]) => (
        <button
          key={id}
          type="button"
          role="tab"
          id={`part-${id}`}
          aria-selected={visit.part === id}
          aria-controls="part"
          data-keys="through"
          onClick={() => visit.toPart(id)}
          className={clsx(
            "min-h-14 px-1 font-semibold leading-tight desk:min-h-10",
            visit.part === id ? "bg-ink text-sheet" : "text-ink-2",
          )}>
          {says}
        </button>
      ))}
    </div>
  );
}

/** What can be done with a closed visit: amend it, read its sheet, go on to the next stop. */
export function ClosedActs({ visit }: { visit: VisitState }) {
  const { view, amending, reason } = visit;
  if (visit.draft || !visit.mayRecord) return null;
  return (
    <>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        {amending ? (
          <label className="max-w-xl flex-1">
            <span className="mb-1 block font-semibold">Why is it amended?</span>
            <input className="input" value={reason} onChange={(event) => visit.setReason(event.target.value)} />
          </label>
        ) : (
          <>
            <Button onClick={visit.amend}>Amend this visit</Button>
            {view.visit.may_reopen && (
              <Undo label="Undo the closing" undo={() => reopenVisit(view.visit.id)} onUndone={visit.reopened} />
            )}
          </>
        )}
        <LinkButton to="/visits/$id/sheet" params={{ id: view.visit.id }}>
          The keeper’s sheet
        </LinkButton>
        <TextLink
          to="/colonies/$id"
          params={{ id: view.colony.id }}
          className="inline-flex min-h-14 items-center desk:min-h-10">
          Back to {view.colony.label}
        </TextLink>
      </div>
      {!amending && view.visit.visited_on === view.today && (
        <div className="mt-4">
          <NextStop
            apiaryId={view.place.apiary_id}
            colonyId={view.colony.id}
            today={view.today}
            quick={view.records.length === 0}
          />
        </div>
      )}
    </>
  );
}
