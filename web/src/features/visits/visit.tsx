/**
 * A visit: before opening, frame by frame in the box plan with last time under it, the colony as a whole, next steps.
 */
import { useQuery } from "@tanstack/react-query";
import { useParams, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { visitQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { KeyBar } from "@/ui/key-bar";
import { Loaded } from "@/ui/loaded";
import { Page } from "@/ui/page";
import { AfterForm } from "./after-form";
import { BeforeForm } from "./before-form";
import { Closing } from "./closing";
import { FramesPart } from "./frames-part";
import { HiveDialog } from "./hive-dialog";
import { Figures, NextSteps } from "./next-steps";
import { Photos } from "./photos";
import { Settle } from "./settle";
import { useVisit, useVisitKeys, type VisitState } from "./use-visit";
import { ClosedActs, PartTabs, VisitHead } from "./visit-head";
import type { View } from "./visit-queue";

const KEYS: [string, string][] = [
  ["← →", "frame"],
  ["c o e h b", "cover, then 0 to 9"],
  ["a", "as last time"],
  ["t", "only stores"],
  ["q", "queen"],
  ["m", "move"],
  ["l", "line"],
  ["?", "all keys"],
];

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
  useVisitKeys(visit, { boxes: () => setBoxes(true), line: () => setLine(true) });
  return (
    <>
      <Page className="desk:pb-4">
        <VisitHead visit={visit} />
        <div className="mt-1">
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
          {visit.part === "follows" && (
            <div className="max-w-3xl">
              <NextSteps view={view} />
              {visit.draft && visit.mayRecord && <Closing visit={visit} />}
            </div>
          )}
        </div>
      </Page>
      <HiveDialog view={view} open={boxes} onClose={() => setBoxes(false)} />
      <KeyBar keys={KEYS} />
    </>
  );
}

function BeforePart({ visit }: { visit: VisitState }) {
  return (
    <div className="max-w-5xl">
      <Settle piece="before" visit={visit} />
      <fieldset disabled={!visit.writable}>
        <BeforeForm
          content={visit.before}
          opening={visit.view.assessment.opening}
          units={visit.units}
          fault={visit.faultOf("before")}
          onChange={(content) => visit.keep("before", content)}
        />
      </fieldset>
      <Button variant="main" big className="mt-5 w-full" onClick={() => visit.toPart("frames")}>
        To the frames
      </Button>
    </div>
  );
}

function AfterPart({ visit }: { visit: VisitState }) {
  return (
    <div className="max-w-3xl">
      <Settle piece="after" visit={visit} />
      <fieldset disabled={!visit.writable}>
        <AfterForm
          content={visit.after}
          view={visit.view}
          fault={visit.faultOf("after")}
          onChange={(content) => visit.keep("after", content)}
        />
      </fieldset>
      <div className="mt-5">
        <Photos view={visit.view} at={null} writable={visit.writable} name="the visit" />
      </div>
      {visit.draft && visit.mayRecord && <Closing visit={visit} />}
    </div>
  );
}
