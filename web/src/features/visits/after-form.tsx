/** After the last frame, or a quick visit: the colony as a whole, what was done, and when to come back. */
import type { Schemas } from "@/client/types";
import { FillBar } from "@/instruments/fill-bar";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { Choice, ChoiceField } from "@/ui/choice";
import { shortDay } from "@/ui/dates";
import { DateField, TextArea } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { NEXT_VISIT } from "@/wording/sentences";
import { AfterMore } from "./after-more";
import { asFlag, type SetAfter } from "./after-set";
import type { After, View } from "./visit-queue";

type Fault = { field: string; message: string };
type Props = { content: After; view: View; fault: Fault | null; onChange: (content: After) => void };

const OWN_FAULTS = ["queen_released", "next_visit"];

export function AfterForm({ content, view, fault, onChange }: Props) {
  const set: SetAfter = (part) => onChange({ ...content, ...part });
  const at = (name: string) => (fault?.field.endsWith(name) ? fault.message : undefined);
  return (
    <div className="space-y-5">
      <Bars content={content} view={view} set={set} />
      <QueenPart content={content} set={set} error={at("queen_released")} />
      <AfterMore content={content} set={set} />
      <div className="grid gap-4 desk:grid-cols-2">
        <TextArea
          label="Decided, and why"
          name="decided"
          value={content.decided}
          onChange={(decided) => set({ decided })}
        />
        <TextArea label="Note" name="note" value={content.note} onChange={(note) => set({ note })} />
      </div>
      <ComeBack content={content} view={view} set={set} error={at("next_visit")} />
      {fault && !OWN_FAULTS.some((name) => fault.field.endsWith(name)) && <Notice tone="act">{fault.message}</Notice>}
    </div>
  );
}

function Row({
  label,
  value,
  unit,
  most,
  was,
  onChange,
}: {
  label: string;
  value: number | null;
  unit: string;
  most: number;
  was?: number | null | undefined;
  onChange: (value: number) => void;
}) {
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-3 gap-y-1 desk:grid-cols-[9rem_1fr_6rem]">
      <span className="font-semibold leading-tight">{label}</span>
      <div className="order-last col-span-2 desk:order-none desk:col-span-1">
        <FillBar label={label} value={value} most={most} unit={unit} was={was ?? undefined} onChange={onChange} />
      </div>
      <span className="text-right">
        <span className="figure text-xl">{value ?? "–"}</span>
        {value !== null && unit !== "of 10" ? ` ${unit}` : ""}
      </span>
    </div>
  );
}

function Bars({ content, view, set }: { content: After; view: View; set: SetAfter }) {
  const { assessment } = view;
  const then = (name: Schemas["VisitTrend"]["name"]) => assessment.trends.find((one) => one.name === name)?.then;
  return (
    <>
      <div className="space-y-2">
        <Row
          label="Seams of bees"
          value={content.seams_of_bees ?? null}
          unit="seams"
          most={12}
          onChange={(value) => set({ seams_of_bees: value })}
        />
        <Row
          label="Frames of brood"
          value={content.frames_of_brood ?? assessment.estimates.frames_of_brood}
          unit="frames"
          most={12}
          was={then("frames_of_brood")}
          onChange={(value) => set({ frames_of_brood: value })}
        />
        <Row
          label="Stores"
          value={content.stores_kg ?? null}
          unit="kg"
          most={30}
          was={then("stores_kg")}
          onChange={(value) => set({ stores_kg: value, stores_by: content.stores_by ?? "hefting" })}
        />
        <Row
          label="Temper"
          value={content.temper ?? null}
          unit="of 10"
          most={10}
          onChange={(value) => set({ temper: Math.max(1, value) })}
        />
      </div>
      {content.stores_kg !== null && content.stores_kg !== undefined && (
        <Choice
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

function QueenPart({ content, set, error }: { content: After; set: SetAfter; error: string | undefined }) {
  return (
    <>
      <ChoiceField
        label="Queen"
        value={content.queen ?? ""}
        options={[
          ["seen", "seen"],
          ["eggs_only", "only eggs"],
          ["neither", "neither"],
          ["not_looked", "not looked for"],
        ]}
        onChange={(value) =>
          value &&
          set({
            queen: value,
            eggs_seen: value === "eggs_only" ? true : value === "neither" ? false : (content.eggs_seen ?? null),
          })
        }
      />
      <ChoiceField
        label="Eggs seen"
        value={asFlag(content.eggs_seen)}
        options={[
          ["yes", "eggs"],
          ["no", "no eggs"],
        ]}
        onChange={(value) => set({ eggs_seen: value === "yes" })}
      />
      <div className="grid gap-4 desk:grid-cols-2">
        <Checkbox
          label="The queen was caged"
          checked={content.queen_caged}
          onChange={(caged) => set({ queen_caged: caged, queen_released: caged && content.queen_released })}
        />
        {content.queen_caged && (
          <Checkbox
            label="She is free again, between brood frames"
            checked={content.queen_released}
            onChange={(released) => set({ queen_released: released })}
          />
        )}
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
