/** What was seen of the frame in hand: its covers, the queen, cells and signs; the short ways stand under the thumb. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { signsQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { useKeys } from "@/ui/keys";
import { COVER } from "@/wording/words";
import { CellDialog } from "./cell-dialog";
import { CoverBars } from "./cover-bars";
import { KEY, RARE, type CoverName } from "./covers";
import { SignDialog } from "./sign-dialog";
import { SignsAndCells } from "./signs-and-cells";
import { useFrameRecord, type FrameState } from "./use-frame-record";
import type { VisitState } from "./use-visit";

type Dialogs = "sign" | "cells" | null;

export function FrameRecorder({ visit, bars = true }: { visit: VisitState; bars?: boolean }) {
  const state = useFrameRecord(visit);
  const { record, previous, alike, sides, more } = state;
  const [dialog, setDialog] = useState<Dialogs>(null);
  const signs = useQuery(signsQuery);
  useFrameKeys(state, setDialog);
  const compared = visit.view.compared_with;
  return (
    <div className="space-y-2.5">
      {bars && (
        <CoverBars
          record={record}
          previous={previous}
          wasOn={compared ? shortDay(compared.visited_on, visit.view.today) : undefined}
          fault={state.fault}
          sides={sides}
          alike={alike}
          more={more}
          set={state.set}
        />
      )}
      <div className="grid grid-cols-3 gap-2">
        <Button
          className="px-1! leading-tight"
          aria-pressed={record.queen}
          variant={record.queen ? "main" : "plain"}
          onClick={state.queen}>
          {record.queen ? "Queen here" : "Queen seen"}
        </Button>
        <Button className="px-1! leading-tight" onClick={() => setDialog("cells")}>
          Queen cells
        </Button>
        <Button className="px-1! leading-tight" onClick={() => setDialog("sign")}>
          Add a sign
        </Button>
      </div>
      <SignsAndCells record={record} signs={signs.data ?? []} onChange={state.change} />
      {bars && <Sides state={state} />}
      <ShortWays state={state} pinned={bars} />
      <SignDialog
        open={dialog === "sign"}
        onClose={() => setDialog(null)}
        signs={signs.data ?? []}
        onAdd={(one) => {
          state.change((old) => {
            const others = old.signs.filter((other) => other.sign !== one.sign || other.side !== one.side);
            return { ...old, signs: [...others, one] };
          });
        }}
      />
      <CellDialog
        open={dialog === "cells"}
        onClose={() => setDialog(null)}
        onAdd={(one) => state.change((old) => ({ ...old, cells: [...old.cells, one] }))}
      />
    </div>
  );
}

function useFrameKeys(state: FrameState, setDialog: (dialog: Dialogs) => void): void {
  const toBar = (name: CoverName) => {
    if (RARE.includes(name)) state.setMore(true);
    window.setTimeout(() => document.querySelector<HTMLElement>(`[data-bar^="${name}-"]`)?.focus());
  };
  useKeys([
    ...(Object.keys(KEY) as CoverName[]).map((name) => ({
      key: KEY[name],
      says: `${COVER[name]}: then 0 to 9, x for ten`,
      run: () => toBar(name),
    })),
    { key: "a", says: "as last time, next frame", run: state.lastTime },
    { key: "r", says: "as the frame before, next frame", run: state.asBefore },
    { key: "t", says: "stores only, next frame", run: state.stores },
    { key: "=", says: "both sides alike, or not", run: () => state.differing(state.alike) },
    { key: "q", says: "queen seen here", run: state.queen },
    { key: "i", says: "add a sign", run: () => setDialog("sign") },
    { key: "u", says: "queen cells", run: () => setDialog("cells") },
  ]);
}

/** Whether the two sides are alike, eggs that were only seen, and the covers that are rarer. */
function Sides({ state }: { state: FrameState }) {
  const { record, alike, more } = state;
  const eggs = record.a?.eggs_seen ?? false;
  return (
    <div className="grid grid-cols-3 gap-2">
      <Button className="px-1! leading-tight" aria-pressed={alike} onClick={() => state.differing(alike)}>
        {alike ? "Sides differ" : "Both sides alike"}
      </Button>
      <Button
        className="px-1! leading-tight"
        aria-pressed={eggs}
        variant={eggs ? "main" : "plain"}
        onClick={() => state.set("a", { eggs_seen: !eggs })}>
        Eggs seen
      </Button>
      {!more && (
        <Button className="px-1! leading-tight" onClick={() => state.setMore(true)}>
          Drone, nectar, pollen
        </Button>
      )}
    </div>
  );
}

/** The ways that record a frame by one tap and go on; in the field they stay under the thumb. */
function ShortWays({ state, pinned }: { state: FrameState; pinned: boolean }) {
  const { previous, beforeNumber } = state;
  return (
    <div
      className={clsx(
        "-mx-4 grid grid-cols-[1fr_1fr_1fr_1.35fr] gap-2 border-t border-line bg-paper p-2",
        "desk:static desk:mx-0 desk:border-0 desk:p-0",
        pinned && "sticky bottom-0 z-10",
      )}>
      <Button className="px-1! leading-tight" disabled={!previous} onClick={state.lastTime}>
        As last time
      </Button>
      <Button className="px-1! leading-tight" disabled={beforeNumber === null} onClick={state.asBefore}>
        {beforeNumber === null ? "As before" : `As frame ${beforeNumber}`}
      </Button>
      <Button className="px-1! leading-tight" onClick={state.stores}>
        Stores only
      </Button>
      <Button variant="main" className="px-1! leading-tight" onClick={state.next}>
        {state.nextIsSide ? "Next side" : "Next frame"}
      </Button>
    </div>
  );
}
