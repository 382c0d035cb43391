/**
 * The colony as a whole, after the last frame or as a quick visit: six facts on one screen, the rest behind More.
 */
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { FillBar } from "@/instruments/fill-bar";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { Choice, ChoiceField } from "@/ui/choice";
import { shortDay } from "@/ui/dates";
import { DateField } from "@/ui/date-field";
import { TextArea } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { weight, type Units } from "@/ui/units";
import { NEXT_VISIT } from "@/wording/sentences";
import { AfterMore } from "./after-more";
import type { SetAfter } from "./after-set";
import { examined } from "./examination";
import { ExaminationDialog } from "./examination-dialog";
import { QueenCage } from "./queen-cage";
import { QUEEN_AND_EGGS, queenAndEggs, type QueenAndEggs } from "./queen-and-eggs";
import type { After, View } from "./visit-queue";

type Fault = { field: string; message: string };
type Props = { content: After; view: View; units: Units; fault: Fault | null; onChange: SetAfter };

const OWN_FAULTS = ["queen_released", "next_visit"];

export function AfterForm({ content, view, units, fault, onChange: set }: Props) {
  const at = (name: string) => (fault?.field.endsWith(name) ? fault.message : undefined);
  return (
    <div className="space-y-3">
      <Bars content={content} view={view} units={units} set={set} />
      <Choice
        label="Queen and eggs"
        value={queenAndEggs(content) ?? ""}
        columns={3}
        options={QUEEN_AND_EGGS.map(({ id, says }) => [id, says] as const)}
        onChange={(id) => set(QUEEN_AND_EGGS.find((one) => one.id === (id as QueenAndEggs))?.record ?? {})}
      />
      <Examine content={content} view={view} fault={fault} set={set} />
      <label className="block">
        <span className="sr-only">Note</span>
        <input
          className="input"
          placeholder="Note"
          maxLength={2000}
          value={content.note}
          onChange={(event) => set({ note: event.target.value })}
        />
      </label>
      <p className="text-ink-2">
        Come back on{" "}
        <strong className="text-ink">{shortDay(content.next_visit ?? view.assessment.suggested.on, view.today)}</strong>
        {content.next_visit ? "." : `: ${NEXT_VISIT[view.assessment.suggested.why]}.`}
      </p>
      <details className="border-t border-line pt-2" open={fault !== null || undefined}>
        <summary className="min-h-10 font-semibold underline underline-offset-4">
          More: another day, cage, pests, feed, small acts, tools, decided
        </summary>
        <div className="mt-3 space-y-5">
          <ComeBack content={content} view={view} set={set} error={at("next_visit")} />
          <HerCage content={content} set={set} error={at("queen_released")} />
          <AfterMore content={content} set={set} />
          <TextArea
            label="Decided, and why"
            name="decided"
            value={content.decided}
            onChange={(decided) => set({ decided })}
          />
        </div>
      </details>
      {fault && !OWN_FAULTS.some((name) => fault.field.endsWith(name)) && <Notice tone="act">{fault.message}</Notice>}
    </div>
  );
}

/** What was examined for disease, in a line, and the way to its walk. */
function Examine({ content, view, fault, set }: { content: After; view: View; fault: Fault | null; set: SetAfter }) {
  const [open, setOpen] = useState(false);
  return (
    <div className="flex items-center justify-between gap-3">
      <p className={content.examination ? "" : "text-ink-2"}>{examined(content)}</p>
      <Button className="shrink-0" onClick={() => setOpen(true)}>
        Disease examination
      </Button>
      <ExaminationDialog
        open={open}
        onClose={() => setOpen(false)}
        view={view}
        content={content}
        fault={fault}
        onChange={set}
      />
    </div>
  );
}

function Bars({ content, view, units, set }: { content: After; view: View; units: Units; set: SetAfter }) {
  const { assessment, compared_with: compared } = view;
  const then = (name: Schemas["VisitTrend"]["name"]) => assessment.trends.find((one) => one.name === name)?.then;
  const wasOn = compared ? shortDay(compared.visited_on, view.today) : undefined;
  return (
    <div className="grid gap-x-6 gap-y-1.5 desk:grid-cols-2">
      <FillBar
        label="Seams of bees"
        value={content.seams_of_bees ?? null}
        unit="seams"
        most={12}
        was={then("seams_of_bees")}
        wasOn={wasOn}
        onChange={(value) => set({ seams_of_bees: value })}
      />
      <FillBar
        label="Frames of brood"
        value={content.frames_of_brood ?? assessment.estimates.frames_of_brood}
        unit="frames"
        most={12}
        was={then("frames_of_brood")}
        wasOn={wasOn}
        onChange={(value) => set({ frames_of_brood: value })}
      />
      <FillBar
        label="Stores"
        value={content.stores_kg ?? null}
        unit="kg"
        most={30}
        was={then("stores_kg")}
        wasOn={wasOn}
        shown={(kg) => weight(kg, units)}
        onChange={(value) => set({ stores_kg: value, stores_by: content.stores_by ?? "hefting" })}
      />
      <FillBar
        label="Temper"
        says="Temper, 10 is gentle"
        value={content.temper ?? null}
        unit="of 10"
        onChange={(value) => set({ temper: Math.max(1, value) })}
      />
    </div>
  );
}

/** The queen in a cage, two queens, and how the stores are known. */
function HerCage({ content, set, error }: { content: After; set: SetAfter; error: string | undefined }) {
  return (
    <>
      <div className="grid gap-4 desk:grid-cols-2">
        <QueenCage content={content} set={set} />
        <Checkbox
          label="There are two queens"
          checked={content.two_queens}
          onChange={(two) => set({ two_queens: two })}
        />
      </div>
      {error && (
        <p role="alert" className="font-semibold text-act">
          {error}
        </p>
      )}
      {content.stores_kg != null && (
        <ChoiceField
          label="Stores known by"
          value={content.stores_by ?? "hefting"}
          options={[
            ["hefting", "hefted"],
            ["frames", "seen on frames"],
            ["weighing", "weighed"],
          ]}
          onChange={(value) => set({ stores_by: value })}
        />
      )}
    </>
  );
}

type ComeBackProps = { content: After; view: View; set: SetAfter; error: string | undefined };

function ComeBack({ content, view, set, error }: ComeBackProps) {
  const { suggested } = view.assessment;
  return (
    <div>
      <DateField
        label="Come back on"
        name="next_visit"
        error={error}
        min={view.visit.visited_on}
        value={content.next_visit ?? suggested.on}
        onChange={(day) => day && set({ next_visit: day })}
      />
      <p className="mt-1 text-sm text-ink-2">
        Suggested {shortDay(suggested.on, view.today)}: {NEXT_VISIT[suggested.why]}.{" "}
        {content.next_visit && content.next_visit !== suggested.on && (
          <Button variant="quiet" onClick={() => set({ next_visit: null, next_why: "" })}>
            Take the suggestion
          </Button>
        )}
      </p>
    </div>
  );
}
