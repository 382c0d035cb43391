/**
 * A visit: before opening, frame by frame in the box plan with last time under it, the colony as a whole, next steps.
 */
import { useQuery } from "@tanstack/react-query";
import { useParams, useSearch } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import { clsx } from "clsx";
import { visitQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { KeyBar } from "@/ui/key-bar";
import { Loaded } from "@/ui/loaded";
import { Page } from "@/ui/page";
import { useDesk } from "@/ui/use-desk";
import { AfterForm } from "./after-form";
import { BeforeForm } from "./before-form";
import { Closing } from "./closing";
import { Disease } from "./disease";
import { FramesPart } from "./frames-part";
import { HiveDialog } from "./hive-dialog";
import { Figures, Findings, NextSteps } from "./next-steps";
import { Photos } from "./photos";
import { Settle } from "./settle";
import { useVisit, useVisitKeys, type VisitState } from "./use-visit";
import { ClosedActs, PartTabs, VisitHead } from "./visit-head";
import { VisitPlan } from "./visit-plan";
import type { View } from "./visit-queue";

const KEYS: [string, string][] = [
  ["← →", "frame"],
  ["c o e h b", "cover, then 0 to 9"],
  ["a", "as last time"],
  ["r", "as the frame before"],
  ["t", "only stores"],
  ["q", "queen"],
  ["m", "move"],
  ["l", "line"],
  ["?", "all keys"],
];

/** At the desk a part of the visit on the left, and on the right what belongs to it. */
const TWO_COLUMNS = "grid items-start gap-x-10 gap-y-6 desk:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]";

export function Visit() {
  const { id } = useParams({ from: "/in/visits/$id" });
  const { compared_with: comparedWith } = useSearch({ from: "/in/visits/$id" });
  const query = useQuery({ ...visitQuery(id, comparedWith), placeholderData: (old) => old });
  return (
    <Loaded query={query} what="Opening the visit …">
      {(view) => <VisitSheet key={view.visit.id} view={view} />}
    </Loaded>
  );
}

function VisitSheet({ view }: { view: View }) {
  const visit = useVisit(view);
  const [line, setLine] = useState(false);
  const [boxes, setBoxes] = useState(false);
  useTabsOnTop(visit.part, visit.draft);
  useVisitKeys(visit, { boxes: () => setBoxes(true), line: () => setLine(true) });
  return (
    <>
      <Page className="pt-2! desk:pt-4!">
        <VisitHead visit={visit} />
        <div className={clsx("mt-1", visit.part !== "follows" && "hidden desk:block")}>
          <Figures view={view} />
        </div>
        <PartTabs visit={visit} />
        <ClosedActs visit={visit} />
        <div id="part" role="tabpanel" aria-labelledby={`part-${visit.part}`} className="mt-4">
          {visit.part === "frames" && (
            <FramesPart visit={visit} line={line} setLine={setLine} openBoxes={() => setBoxes(true)} />
          )}
          {visit.part === "before" && <BeforePart visit={visit} />}
          {visit.part === "after" && <AfterPart visit={visit} />}
          {visit.part === "follows" && <FollowsPart visit={visit} />}
        </div>
      </Page>
      <HiveDialog view={view} open={boxes} onClose={() => setBoxes(false)} />
      <KeyBar keys={KEYS} />
    </>
  );
}

/** What was found and what follows, and the hive as it was seen. */
function FollowsPart({ visit }: { visit: VisitState }) {
  return (
    <div className={TWO_COLUMNS}>
      <div className="space-y-6">
        <Disease view={visit.view} />
        <NextSteps view={visit.view} />
        {visit.draft && visit.mayRecord && <Closing visit={visit} />}
      </div>
      {visit.view.records.length > 0 && <VisitPlan visit={visit} />}
    </div>
  );
}

/**
 * In the field each part of an open visit begins at the top of the screen, so that nothing of it has to be scrolled
 * for. A closed one opens at its head, which says whose it is and what it found.
 */
function useTabsOnTop(part: string, draft: boolean): void {
  const desk = useDesk();
  const opened = useRef(part);
  useEffect(() => {
    if (!desk && (draft || part !== opened.current))
      document.getElementById("parts")?.scrollIntoView({ block: "start" });
  }, [desk, draft, part]);
}

function BeforePart({ visit }: { visit: VisitState }) {
  return (
    <div className={TWO_COLUMNS}>
      <div>
        <Settle piece="before" visit={visit} />
        <fieldset disabled={!visit.writable}>
          <BeforeForm
            content={visit.before}
            opening={visit.view.assessment.opening}
            units={visit.units}
            fault={visit.faultOf("before")}
            onChange={visit.keepBefore}
          />
        </fieldset>
        <Button variant="main" className="mt-4 w-full" onClick={() => visit.toPart("frames")}>
          To the frames
        </Button>
      </div>
      {visit.framed.length > 0 && <VisitPlan visit={visit} />}
    </div>
  );
}

function AfterPart({ visit }: { visit: VisitState }) {
  return (
    <div className={TWO_COLUMNS}>
      <div>
        <Settle piece="after" visit={visit} />
        <fieldset disabled={!visit.writable}>
          <AfterForm
            content={visit.after}
            view={visit.view}
            units={visit.units}
            fault={visit.faultOf("after")}
            onChange={visit.keepAfter}
          />
        </fieldset>
        {visit.draft && visit.mayRecord && <Closing visit={visit} pinned />}
      </div>
      <div className="space-y-5">
        <Disease view={visit.view} />
        <Findings view={visit.view} />
        <Photos view={visit.view} at={null} writable={visit.writable} name="the visit" />
      </div>
    </div>
  );
}
